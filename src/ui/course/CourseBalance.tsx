'use client'

import { useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button, Table } from 'antd'
import Link from 'next/link'
import { useMemo, useState } from 'react'
import { type CourseLesson, type LessonBalance } from '@/core/course/lessonBalance'
import { COURSE_TARGETS, usualTargets, type CourseTargets } from '@/core/course/courseTargets'
import { call } from '../api'
import { useChart, useChartInk } from '../balance/chart'
import { percent, signed } from '../format'
import { NumberField } from '../parts/NumberField'
import { runJob } from '../jobs'
import { CourseHeader } from './CourseHeader'
import styles from './course.module.css'

const FIELDS: Record<keyof CourseTargets, { label: string; suffix: string; min: number; max: number }> = {
  loudness: { label: 'Loudness', suffix: 'LUFS', min: -31, max: -9 },
  clearance: { label: 'Clearance', suffix: 'LU', min: 3, max: 40 },
  swell: { label: 'Where nobody speaks', suffix: 'LU under', min: -6, max: 40 },
}

/** Whether all lessons of a course sound alike, and one action that makes them. */
export function CourseBalance({ course }: { course: { id: string; title: string } }) {
  const { message } = App.useApp()
  const client = useQueryClient()
  const key = ['course-balance', course.id]
  const path = `/api/courses/${course.id}/balance`
  const { data, isLoading } = useQuery({ queryKey: key, queryFn: () => call<CourseLesson[]>(path) })
  const { lessons, left, failed } = useBalances(data)
  const [chosen, setChosen] = useState<CourseTargets | null>(null)
  const [busy, setBusy] = useState(false)
  const targets = chosen ?? usualTargets(lessons.map((lesson) => lesson.targets))
  const different = lessons.filter((lesson) => COURSE_TARGETS.some((one) => lesson.targets[one] !== targets[one]))
  const apply = async () => {
    setBusy(true)
    try {
      const { changed } = await call<{ changed: number }>(path, { body: targets })
      await client.invalidateQueries({ queryKey: key })
      void message.success(`${changed} ${changed === 1 ? 'lesson' : 'lessons'} changed. Earlier versions are kept.`)
    } catch (error) {
      void message.error((error as Error).message)
    }
    setBusy(false)
  }
  return (
    <div className={styles.page}>
      <CourseHeader course={course} place="balance" />
      <main className={styles.main}>
        <h1>Do the lessons sound alike?</h1>
        <section className={styles.card}>
          {lessons.length > 0 && <Chart lessons={lessons} targets={targets} />}
          {left > 0 && (
            <p role="status">
              Measuring: {lessons.length - left} of {lessons.length} lessons…
            </p>
          )}
          {failed && <p role="alert">{failed}</p>}
          <Table<LessonBalance>
            size="small"
            rowKey="id"
            loading={isLoading}
            pagination={false}
            dataSource={lessons}
            columns={[
              {
                title: 'Lesson',
                render: (_, { id, title }) => <Link href={`/lessons/${id}/balance`}>{title}</Link>,
              },
              { title: 'Voice', render: (_, { voice }) => (voice === null ? 'no voice' : `${signed(voice)} LUFS`) },
              {
                title: 'Clearance',
                render: (_, { clearance }) => (clearance === null ? 'no music' : `${clearance.toFixed(1)} LU`),
              },
              { title: 'Held', render: (_, { within }) => (within === null ? '–' : percent(within)) },
              { title: 'Loudness range', render: (_, { range }) => (range === null ? '–' : `${range.toFixed(1)} LU`) },
              ...COURSE_TARGETS.map((target) => ({
                title: `Set: ${FIELDS[target].label.toLowerCase()}`,
                render: (_: unknown, lesson: LessonBalance) => (
                  <Change now={lesson.targets[target]} then={targets[target]} suffix={FIELDS[target].suffix} />
                ),
              })),
            ]}
          />
        </section>
        <section className={styles.card} aria-label="Make them alike">
          <h2>Make them alike</h2>
          <div className={styles.fields}>
            {COURSE_TARGETS.map((target) => (
              <label key={target}>
                {FIELDS[target].label}
                <NumberField
                  aria-label={FIELDS[target].label}
                  min={FIELDS[target].min}
                  max={FIELDS[target].max}
                  value={targets[target]}
                  suffix={FIELDS[target].suffix}
                  style={{ width: '100%' }}
                  onChange={(value) => value !== null && setChosen({ ...targets, [target]: value })}
                />
              </label>
            ))}
            <Button type="primary" loading={busy} disabled={different.length === 0} onClick={() => void apply()}>
              {different.length === 0
                ? 'All lessons are set so'
                : `Set ${different.length} of ${lessons.length} lessons so`}
            </Button>
          </div>
          <p className={styles.note}>
            What would change is shown in the table first. Each lesson keeps its earlier versions.
          </p>
        </section>
      </main>
    </div>
  )
}

/** How each lesson sounds: planned on the server, one after the other, and shown as it comes. */
function useBalances(lessons: readonly CourseLesson[] = []) {
  const results = useQueries({
    queries: lessons.map(({ id, revision }) => ({
      queryKey: ['balance', id, revision],
      queryFn: () => runJob({ kind: 'balance', lesson: id, revision }),
    })),
  })
  return {
    lessons: lessons.map((lesson, i): LessonBalance => results[i]?.data ?? { ...UNKNOWN, ...lesson }),
    left: results.filter(({ isPending }) => isPending).length,
    failed: results.find(({ error }) => error)?.error?.message ?? null,
  }
}

const UNKNOWN = { voice: null, clearance: null, within: null, range: null }

function Change({ now, then, suffix }: { now: number; then: number; suffix: string }) {
  if (now === then) return `${signed(now, 0)} ${suffix}`
  return (
    <span className={styles.change}>
      <s>{signed(now, 0)}</s> → <b>{signed(then, 0)}</b> {suffix}
    </span>
  )
}

/** Loudness of the voice and clearance, lesson by lesson, against what all are to have. */
function Chart({ lessons, targets }: { lessons: readonly LessonBalance[]; targets: CourseTargets }) {
  const ink = useChartInk()
  const option = useMemo(() => {
    const line = (name: string, color: string, values: (number | null)[], axis: number, target: number) => ({
      name,
      type: 'line' as const,
      yAxisIndex: axis,
      data: values.map((value) => (value === null ? null : Number(value.toFixed(1)))),
      symbolSize: 9,
      lineStyle: { color, width: 1.5 },
      itemStyle: { color },
      markLine: {
        silent: true,
        symbol: 'none',
        lineStyle: { color, type: 'dashed' as const },
        label: { show: false },
        data: [{ yAxis: target }],
      },
    })
    return {
      animation: false,
      textStyle: ink.font,
      grid: { left: 56, right: 56, top: 30, bottom: 30 },
      tooltip: { trigger: 'axis' as const },
      xAxis: { type: 'category' as const, data: lessons.map(({ title }) => title), axisLabel: ink.font },
      yAxis: [
        {
          type: 'value' as const,
          name: 'voice, LUFS',
          min: -30,
          max: -10,
          splitLine: { lineStyle: { color: ink.graph } },
        },
        { type: 'value' as const, name: 'clearance, LU', min: 0, max: 30, splitLine: { show: false } },
      ],
      series: [
        line(
          'voice',
          ink.voice,
          lessons.map(({ voice }) => voice),
          0,
          targets.loudness,
        ),
        line(
          'clearance',
          ink.bed,
          lessons.map(({ clearance }) => clearance),
          1,
          targets.clearance,
        ),
      ],
    }
  }, [lessons, targets, ink])
  const element = useChart(option)
  return <div ref={element} className={styles.chart} role="img" aria-label="Loudness and clearance of all lessons" />
}
