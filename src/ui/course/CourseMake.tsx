'use client'

import { useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button, Progress, Select, Table, type TableColumnsType } from 'antd'
import { useState } from 'react'
import Link from 'next/link'
import type { LessonExports } from '@/core/course/lessonExports'
import { isAudible, type OutputName } from '@/core/delivery/outputs'
import { isUnderWay, type ExportStatus } from '@/core/messages/job'
import { say } from '@/messages/say'
import { decimal, megabytes, percent, signed } from '../format'
import { call } from '../api'
import { outputGroups, titleOf } from '../finish/outputGroups'
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
        <h1>{say('course.makeTheWholeCourse')}</h1>
        <section className={styles.card} aria-label={say('course.whatToMake')}>
          <div className={styles.choose}>
            <label>
              {say('course.whatToMakeOfEach')}
              <Select
                mode="multiple"
                value={[...names]}
                onChange={(chosen: OutputName[]) => {
                  setPicked(chosen)
                  setDelivery(chosen)
                }}
                aria-label={say('course.whatToMakeOf')}
                optionFilterProp="label"
                options={outputGroups().map(({ title, choices }) => ({
                  label: title,
                  title,
                  options: choices.map(({ name }) => ({ value: name, label: titleOf(name) })),
                }))}
              />
            </label>
            {underWay.length > 0 && <Button onClick={() => stop(underWay)}>{say('course.stop')}</Button>}
            <Button
              type={toMake.length > 0 ? 'primary' : 'default'}
              disabled={toMake.length === 0}
              loading={isAsking}
              onClick={() => make(toMake.map(({ lesson, name }) => ({ lesson: lesson.id, name })))}
            >
              {toMake.length > 0
                ? say('course.makeFiles', { count: toMake.length })
                : underWay.length > 0
                  ? say('course.itIsBeingMade')
                  : say('course.allOfItIs')}
            </Button>
            <Button
              type={toMake.length === 0 && underWay.length === 0 ? 'primary' : 'default'}
              disabled={done.length === 0}
              href={done.length > 0 ? `/api/courses/${course.id}/files?${done.map((id) => `job=${id}`).join('&')}` : ''}
            >
              {say('course.downloadFiles', { count: done.length })}
            </Button>
          </div>
          <p className={styles.note}>{say('course.whatIsChosenHere')}</p>
        </section>
        <section className={styles.card} aria-label={say('course.lessons')}>
          <Table<LessonExports>
            size="small"
            rowKey="id"
            loading={isLoading}
            pagination={false}
            className={styles.table}
            dataSource={lessons}
            rowSelection={{
              selectedRowKeys: chosen.map(({ id }) => id),
              onChange: (keys) => setLeft(new Set(lessons.map(({ id }) => id).filter((id) => !keys.includes(id)))),
              getCheckboxProps: ({ title }) => ({ 'aria-label': say('course.makeLesson', { title }) }) as object,
              getTitleCheckboxProps: () => ({ 'aria-label': say('course.makeAllLessons') }) as object,
            }}
            columns={columnsOf(names)}
          />
        </section>
      </main>
    </div>
  )
}

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
    { title: say('course.lesson'), render: (_, { id, title }) => <Link href={`/lessons/${id}/finish`}>{title}</Link> },
    ...names.map((name) => ({
      title: titleOf(name),
      render: (_: unknown, lesson: LessonExports) => <State one={newestOf(lesson, name)} />,
    })),
    measured(say('course.loudness'), ({ loudness }) =>
      loudness === null ? say('course.silent') : `${signed(loudness)} LUFS`,
    ),
    measured(say('course.underTheVoice'), ({ clearance }) => (clearance === null ? '–' : `${decimal(clearance)} LU`)),
    measured(say('course.whereItShouldBe'), ({ within }) => (within === null ? '–' : percent(within))),
  ]
}

function State({ one }: { one: ExportStatus | undefined }) {
  if (!one || one.state === 'cancelled') return say('course.notMadeYet')
  if (one.state === 'failed') return <span className={styles.failed}>{one.error}</span>
  if (one.state === 'waiting') return say('course.waits')
  if (isUnderWay(one))
    return <Progress percent={Math.floor(100 * one.progress)} size="small" aria-label={say('course.progress')} />
  const size = megabytes(one.result!.bytes)
  return one.isOutdated ? say('course.changedSince', { size }) : size
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
