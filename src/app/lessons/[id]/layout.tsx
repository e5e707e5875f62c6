import { notFound } from 'next/navigation'
import type { Metadata } from 'next'
import type { ReactNode } from 'react'
import { findLessonRow, isReadable, lessonTitle } from '@/db/lessons'
import { say } from '@/messages/say'
import { LessonDesk } from '@/ui/lesson/LessonDesk'
import { UnreadableLesson } from '@/ui/lesson/UnreadableLesson'

export const dynamic = 'force-dynamic'

/** A tab of the browser says which lesson it shows, and which view of it. */
export async function generateMetadata({ params }: { params: Promise<{ id: string }> }): Promise<Metadata> {
  const title = await lessonTitle((await params).id)
  return { title: { default: say('pages.sheetOf', { title }), template: `%s: ${title} · Yarn Step` } }
}

/** All views of a lesson share one open document and one player. */
export default async function LessonLayout({
  params,
  children,
}: {
  params: Promise<{ id: string }>
  children: ReactNode
}) {
  const { id } = await params
  const row = /^[\w-]{1,40}$/.test(id) ? await findLessonRow(id) : null
  if (!row) notFound()
  if (!isReadable(row.document)) return <UnreadableLesson id={id} />
  return (
    <LessonDesk key={id} id={id}>
      {children}
    </LessonDesk>
  )
}
