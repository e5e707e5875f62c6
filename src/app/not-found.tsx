import Link from 'next/link'
import { Brand } from '@/ui/parts/Brand'

export const metadata = { title: 'Nothing here' }

export default function NotFound() {
  return (
    <div style={{ padding: 40, display: 'grid', gap: 16, justifyItems: 'start' }}>
      <Brand />
      <h1 style={{ fontSize: 22 }}>There is nothing here</h1>
      <p>
        The lesson may have been deleted. <Link href="/">Go to your courses</Link>.
      </p>
    </div>
  )
}
