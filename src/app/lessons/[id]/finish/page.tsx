import { Finish } from '@/ui/finish/Finish'

export default function FinishPage() {
  return <Finish />
}
