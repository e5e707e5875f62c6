import { say } from '@/messages/say'
import { CourseMake } from '@/ui/course/CourseMake'
import { titleOf } from '../titleOf'

export const dynamic = 'force-dynamic'

export async function generateMetadata({ params }: { params: Promise<{ id: string }> }) {
  return { title: say('pages.makeTheCourse', { title: await titleOf((await params).id) }) }
}

export default async function CourseMakePage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  return <CourseMake course={{ id, title: await titleOf(id) }} />
}
