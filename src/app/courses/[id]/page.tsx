import { say } from '@/messages/say'
import { CourseBalance } from '@/ui/course/CourseBalance'
import { titleOf } from './titleOf'

export const dynamic = 'force-dynamic'

export async function generateMetadata({ params }: { params: Promise<{ id: string }> }) {
  return { title: say('pages.doTheySoundAlike', { title: await titleOf((await params).id) }) }
}

export default async function CoursePage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  return <CourseBalance course={{ id, title: await titleOf(id) }} />
}
