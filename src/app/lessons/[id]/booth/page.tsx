import { Booth } from '@/ui/booth/Booth'

export const metadata = { title: 'Booth' }

export default function BoothPage() {
  return <Booth />
}
