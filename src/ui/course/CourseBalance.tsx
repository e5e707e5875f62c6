'use client'

import { useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button, Table } from 'antd'
import Link from 'next/link'
import { useMemo, useState } from 'react'
import { type CourseLesson, type LessonBalance } from '@/core/course/lessonBalance'
import { COURSE_TARGETS, usualTargets, type CourseTargets } from '@/core/course/courseTargets'
import { say } from '@/messages/say'
import { decimal, percent, signed } from '../format'
import { call } from '../api'
import { useChart, useChartInk } from '../balance/chart'
import { NumberField } from '../parts/NumberField'
import { runJob } from '../jobs'
import { CourseHeader } from './CourseHeader'
import styles from './course.module.css'

const fields = (): Record<keyof CourseTargets, { label: string; suffix: string; min: number; max: number }> => ({
  loudness: { label: say('course.loudness'), suffix: say('course.lufs'), min: -31, max: -9 },
  clearance: { label: say('course.clearance'), suffix: say('course.lu'), min: 3, max: 40 },
  swell: { label: say('course.whereNobodySpeaks'), suffix: say('course.luUnder'), min: -6, max: 40 },
})

const SET = { loudness: 'course.setLoudness', clearance: 'course.setClearance', swell: 'course.setSwell' } as const

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
      void message.success(say('course.changed', { count: changed }))
    } catch (error) {
      void message.error((error as Error).message)
    }
    setBusy(false)
  }
  return (
    <div className={styles.page}>
      <CourseHeader course={course} place="balance" />
      <main className={styles.main}>
        <h1>{say('course.doTheLessonsSound')}</h1>
        <section className={styles.card}>
          {lessons.length > 0 && <Chart lessons={lessons} targets={targets} />}
          {left > 0 && (
            <p role="status">
              {say('course.measuringOfLessons', { done: lessons.length - left, count: lessons.length })}
            </p>
          )}
          {failed && <p role="alert">{failed}</p>}
          <Table<Row>
            size="small"
            rowKey="id"
            loading={isLoading}
            pagination={false}
            className={styles.table}
            dataSource={lessons}
            columns={[
              {
                title: say('course.lesson'),
                render: (_, { id, title }) => <Link href={`/lessons/${id}/balance`}>{title}</Link>,
              },
              {
                title: say('course.voice'),
                render: (_, { voice, unknown }) =>
                  unknown ?? (voice === null ? say('course.noVoice') : `${signed(voice)} LUFS`),
              },
              {
                title: say('course.clearance'),
                render: (_, { clearance, unknown }) =>
                  unknown ?? (clearance === null ? say('course.noMusic') : `${decimal(clearance)} LU`),
              },
              {
                title: say('course.held'),
                render: (_, { within, unknown }) => unknown ?? (within === null ? '–' : percent(within)),
              },
              {
                title: say('course.loudnessRange'),
                render: (_, { range, unknown }) => unknown ?? (range === null ? '–' : `${decimal(range)} LU`),
              },
              ...COURSE_TARGETS.map((target) => ({
                title: say(SET[target]),
                render: (_: unknown, lesson: LessonBalance) => (
                  <Change now={lesson.targets[target]} then={targets[target]} suffix={fields()[target].suffix} />
                ),
              })),
            ]}
          />
        </section>
        <section className={styles.card} aria-label={say('course.makeThemAlike')}>
          <h2>{say('course.makeThemAlike')}</h2>
          <div className={styles.fields}>
            {COURSE_TARGETS.map((target) => (
              <label key={target}>
                {fields()[target].label}
                <NumberField
                  aria-label={fields()[target].label}
                  min={fields()[target].min}
                  max={fields()[target].max}
                  value={targets[target]}
                  suffix={fields()[target].suffix}
                  style={{ width: '100%' }}
                  onChange={(value) => value !== null && setChosen({ ...targets, [target]: value })}
                />
              </label>
            ))}
            <Button type="primary" loading={busy} disabled={different.length === 0} onClick={() => void apply()}>
              {different.length === 0
                ? say('course.allLessonsAreSet')
                : say('course.setOfLessonsSo', { count: different.length, all: lessons.length })}
            </Button>
          </div>
          <p className={styles.note}>{say('course.whatWouldChangeIs')}</p>
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
    lessons: lessons.map(
      (lesson, i): Row => results[i]?.data ?? { ...UNKNOWN, ...lesson, unknown: results[i]?.isPending ? '…' : '–' },
    ),
    left: results.filter(({ isPending }) => isPending).length,
    failed: results.find(({ error }) => error)?.error?.message ?? null,
  }
}

/** `unknown`: what stands where nothing is known, or not yet. */
type Row = LessonBalance & { unknown?: string }

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
          name: say('course.voiceLufs'),
          min: -30,
          max: -10,
          splitLine: { lineStyle: { color: ink.graph } },
        },
        { type: 'value' as const, name: say('course.clearanceLu'), min: 0, max: 30, splitLine: { show: false } },
      ],
      series: [
        line(
          say('course.voiceLine'),
          ink.voice,
          lessons.map(({ voice }) => voice),
          0,
          targets.loudness,
        ),
        line(
          say('course.clearanceLine'),
          ink.bed,
          lessons.map(({ clearance }) => clearance),
          1,
          targets.clearance,
        ),
      ],
    }
  }, [lessons, targets, ink])
  const element = useChart(option)
  return <div ref={element} className={styles.chart} role="img" aria-label={say('course.loudnessAndClearanceOf')} />
}
