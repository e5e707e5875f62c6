import { say } from '@/messages/say'
import { Booth } from '@/ui/booth/Booth'

export const generateMetadata = () => ({ title: say('lesson.booth') })

export default function BoothPage() {
  return <Booth />
}
