import { notFound } from 'next/navigation'
import { NotThere } from '@/core/userError'
import { courseTitle } from '@/db/courses'
import { CourseBalance } from '@/ui/course/CourseBalance'

export const dynamic = 'force-dynamic'

export async function generateMetadata({ params }: { params: Promise<{ id: string }> }) {
  return { title: `Do they sound alike: ${await titleOf((await params).id)}` }
}

export default async function CoursePage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  return <CourseBalance course={{ id, title: await titleOf(id) }} />
}

async function titleOf(id: string): Promise<string> {
  if (!/^[\w-]{1,40}$/.test(id)) notFound()
  try {
    return await courseTitle(id)
  } catch (error) {
    if (error instanceof NotThere) notFound()
    throw error
  }
}
