import { notFound } from 'next/navigation'
import type { ReactNode } from 'react'
import { mediaOf } from '@/core/lesson/document'
import { courseTitle } from '@/db/courses'
import { findLesson } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { loadInfos } from '@/media/lessonMedia'
import { LessonDesk } from '@/ui/lesson/LessonDesk'

export const dynamic = 'force-dynamic'

/** All views of a lesson share one open document and one player. */
export default async function LessonLayout({
  params,
  children,
}: {
  params: Promise<{ id: string }>
  children: ReactNode
}) {
  const { id } = await params
  const found = await findLesson(id)
  if (!found) notFound()
  const infoOf = await loadInfos(found.lesson, mediaStore())
  const media = [...mediaOf(found.lesson)].flatMap((hash) => infoOf(hash) ?? [])
  const course = { id: found.courseId, title: await courseTitle(found.courseId) }
  return (
    <LessonDesk id={id} course={course} lesson={found.lesson} revision={found.revision} media={media}>
      {children}
    </LessonDesk>
  )
}
