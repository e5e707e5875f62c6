import { say } from '@/messages/say'
import { Finish } from '@/ui/finish/Finish'

export const generateMetadata = () => ({ title: say('lesson.finish') })

export default function FinishPage() {
  return <Finish />
}
