import { courseTitle } from '@/db/courses'
import { CourseBalance } from '@/ui/course/CourseBalance'

export const dynamic = 'force-dynamic'

export default async function CoursePage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  return <CourseBalance course={{ id, title: await courseTitle(id) }} />
}
