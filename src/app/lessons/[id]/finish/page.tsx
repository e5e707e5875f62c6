import { Finish } from '@/ui/finish/Finish'

export const metadata = { title: 'Finish' }

export default function FinishPage() {
  return <Finish />
}
