import { Booth } from '@/ui/booth/Booth'

export default function BoothPage() {
  return <Booth />
}
