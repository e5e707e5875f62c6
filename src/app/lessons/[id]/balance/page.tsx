import { say } from '@/messages/say'
import { Balance } from '@/ui/balance/Balance'

export const generateMetadata = () => ({ title: say('lesson.balance') })

export default function BalancePage() {
  return <Balance />
}
