'use client'

import { useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button, Progress, Select, Table, type TableColumnsType } from 'antd'
import { useState } from 'react'
import Link from 'next/link'
import type { LessonExports } from '@/core/course/lessonExports'
import { isAudible, type OutputName } from '@/core/delivery/outputs'
import { isUnderWay, type ExportStatus } from '@/core/messages/job'
import { call } from '../api'
import { OUTPUT_GROUPS, titleOf } from '../finish/outputGroups'
import { megabytes, percent, signed } from '../format'
import { CourseHeader } from './CourseHeader'
import { useDelivery } from './useDelivery'
import styles from './course.module.css'

/** All lessons of a course made in one go: only what has changed, with its progress, and all of it in one zip. */
export function CourseMake({ course }: { course: { id: string; title: string } }) {
  const { delivery, setDelivery } = useDelivery(course.id)
  // While one chooses there may be nothing for a moment; a course of which nobody has said anything is made as videos.
  const [picked, setPicked] = useState<readonly OutputName[] | null>(null)
  const names = picked ?? (delivery?.length ? delivery : (['video'] as const))
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const { lessons, isLoading, isAsking, make, stop } = useCourseExports(course.id)
  const chosen = lessons.filter(({ id }) => !left.has(id))
  const wanted = chosen.flatMap((lesson) => names.map((name) => ({ lesson, name, newest: newestOf(lesson, name) })))
  const toMake = wanted.filter(({ newest }) => !isDone(newest) && !(newest && isUnderWay(newest)))
  const underWay = wanted.flatMap(({ newest }) => (newest && isUnderWay(newest) ? [newest.id] : []))
  const done = wanted.flatMap(({ newest }) => (isDone(newest) ? [newest!.id] : []))
  return (
    <div className={styles.page}>
      <CourseHeader course={course} place="make" />
      <main className={styles.main}>
        <h1>Make the whole course</h1>
        <section className={styles.card} aria-label="What to make">
          <div className={styles.choose}>
            <label>
              What to make of each lesson
              <Select
                mode="multiple"
                value={[...names]}
                onChange={(chosen: OutputName[]) => {
                  setPicked(chosen)
                  setDelivery(chosen)
                }}
                aria-label="What to make of each lesson"
                optionFilterProp="label"
                options={OUTPUT_GROUPS.map(({ title, choices }) => ({
                  label: title,
                  title,
                  options: choices.map(({ name }) => ({ value: name, label: titleOf(name) })),
                }))}
              />
            </label>
            {underWay.length > 0 && <Button onClick={() => stop(underWay)}>Stop</Button>}
            <Button
              type={toMake.length > 0 ? 'primary' : 'default'}
              disabled={toMake.length === 0}
              loading={isAsking}
              onClick={() => make(toMake.map(({ lesson, name }) => ({ lesson: lesson.id, name })))}
            >
              {toMake.length > 0
                ? `Make ${countOf(toMake.length)}`
                : underWay.length > 0
                  ? 'It is being made'
                  : 'All of it is made'}
            </Button>
            <Button
              type={toMake.length === 0 && underWay.length === 0 ? 'primary' : 'default'}
              disabled={done.length === 0}
              href={done.length > 0 ? `/api/courses/${course.id}/files?${done.map((id) => `job=${id}`).join('&')}` : ''}
            >
              {`Download ${countOf(done.length)}`}
            </Button>
          </div>
          <p className={styles.note}>
            What is chosen here holds for the course: it is offered in each of its lessons, too. What is made already
            and has not changed since is not made again. You can leave this page meanwhile; it goes on.
          </p>
        </section>
        <section className={styles.card} aria-label="Lessons">
          <Table<LessonExports>
            size="small"
            rowKey="id"
            loading={isLoading}
            pagination={false}
            dataSource={lessons}
            rowSelection={{
              selectedRowKeys: chosen.map(({ id }) => id),
              onChange: (keys) => setLeft(new Set(lessons.map(({ id }) => id).filter((id) => !keys.includes(id)))),
              getCheckboxProps: ({ title }) => ({ 'aria-label': `Make ${title}` }) as object,
              getTitleCheckboxProps: () => ({ 'aria-label': 'Make all lessons' }) as object,
            }}
            columns={columnsOf(names)}
          />
        </section>
      </main>
    </div>
  )
}

const countOf = (count: number) => (count === 1 ? 'one file' : `${count} files`)
const newestOf = ({ exports }: LessonExports, name: OutputName) => exports.find(({ input }) => input.file === name)
const isDone = (one: ExportStatus | undefined) => one?.state === 'done' && !one.isOutdated

function columnsOf(names: readonly OutputName[]): TableColumnsType<LessonExports> {
  const heard = names.find(isAudible)
  const balance = (lesson: LessonExports) => (heard && newestOf(lesson, heard)?.result?.balance) || null
  const measured = (title: string, value: (found: NonNullable<ReturnType<typeof balance>>) => string) => ({
    title,
    render: (_: unknown, lesson: LessonExports) => {
      const found = balance(lesson)
      return found ? value(found) : '–'
    },
  })
  return [
    { title: 'Lesson', render: (_, { id, title }) => <Link href={`/lessons/${id}/finish`}>{title}</Link> },
    ...names.map((name) => ({
      title: titleOf(name),
      render: (_: unknown, lesson: LessonExports) => <State one={newestOf(lesson, name)} />,
    })),
    measured('Loudness', ({ loudness }) => (loudness === null ? 'silent' : `${signed(loudness)} LUFS`)),
    measured('Under the voice', ({ clearance }) => (clearance === null ? '–' : `${clearance.toFixed(1)} LU`)),
    measured('Where it should be', ({ within }) => (within === null ? '–' : percent(within))),
  ]
}

function State({ one }: { one: ExportStatus | undefined }) {
  if (!one || one.state === 'cancelled') return 'not made yet'
  if (one.state === 'failed') return <span className={styles.failed}>{one.error}</span>
  if (one.state === 'waiting') return 'waits'
  if (isUnderWay(one)) return <Progress percent={Math.floor(100 * one.progress)} size="small" aria-label="Progress" />
  return `${megabytes(one.result!.bytes)}${one.isOutdated ? ', changed since' : ''}`
}

/** What was made of the lessons of a course; asked for again while something is in the making. */
function useCourseExports(course: string) {
  const { message } = App.useApp()
  const client = useQueryClient()
  const key = ['course-exports', course]
  const { data = [], isLoading } = useQuery({
    queryKey: key,
    queryFn: () => call<LessonExports[]>(`/api/courses/${course}/exports`),
    refetchInterval: ({ state }) => (state.data?.some(({ exports }) => exports.some(isUnderWay)) ? 1000 : false),
  })
  const [isAsking, setAsking] = useState(false)
  const change = async (works: (() => Promise<unknown>)[]) => {
    setAsking(true)
    for (const work of works)
      try {
        await work()
      } catch (error) {
        void message.error((error as Error).message)
        break
      }
    await client.invalidateQueries({ queryKey: key })
    setAsking(false)
  }
  return {
    lessons: data,
    isLoading,
    isAsking,
    make: (all: { lesson: string; name: OutputName }[]) =>
      void change(
        all.map(
          ({ lesson, name }) =>
            () =>
              call('/api/jobs', { body: { kind: 'export', lesson, file: name } }),
        ),
      ),
    stop: (jobs: string[]) => void change(jobs.map((id) => () => call(`/api/jobs/${id}`, { method: 'DELETE' }))),
  }
}
