import Link from 'next/link'
import { say } from '@/messages/say'
import { Brand } from '@/ui/parts/Brand'

export const generateMetadata = () => ({ title: say('pages.nothingHere') })

export default function NotFound() {
  return (
    <div style={{ padding: 40, display: 'grid', gap: 16, justifyItems: 'start' }}>
      <Brand />
      <h1 style={{ fontSize: 22 }}>{say('pages.thereIsNothing')}</h1>
      <p>{say.rich('pages.mayHaveBeenDeleted', { link: (words) => <Link href="/">{words}</Link> })}</p>
    </div>
  )
}
