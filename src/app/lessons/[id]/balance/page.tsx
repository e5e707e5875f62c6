import { Balance } from '@/ui/balance/Balance'

export default function BalancePage() {
  return <Balance />
}
