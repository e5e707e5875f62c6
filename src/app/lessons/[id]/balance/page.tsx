import { Balance } from '@/ui/balance/Balance'

export const metadata = { title: 'Balance' }

export default function BalancePage() {
  return <Balance />
}
