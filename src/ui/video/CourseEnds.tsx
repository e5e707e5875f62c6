'use client'

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button } from 'antd'
import {
  followShared,
  hasShared,
  stepsAtEnd,
  withShared,
  type CourseEnds as Ends,
  type End,
  type SharedSteps,
} from '@/core/course/sharedSteps'
import { call } from '../api'
import { useDesk, useLesson, useLessonState } from '../lesson/context'
import panel from '../sheet/panel.module.css'
import styles from './video.module.css'

const ENDS = {
  first: {
    name: 'Every lesson begins with',
    verb: 'begin',
    where: 'the first steps',
    added: 'What each lesson begins with now comes after that.',
  },
  last: {
    name: 'Every lesson ends with',
    verb: 'end',
    where: 'the last steps',
    added: 'What each lesson ends with now comes before that.',
  },
} as const
const INSTEAD = 'It takes the place of what they share now; a lesson that has changed that keeps its own.'

/** The steps that all lessons of the course begin and end with: changed in one place. */
export function CourseEnds() {
  const { course } = useDesk()
  const path = `/api/courses/${course.id}/ends`
  const { data: ends } = useQuery({ queryKey: [path], queryFn: () => call<Ends>(path) })
  if (!ends) return null
  return (
    <section className={styles.part} aria-label="Steps that all lessons share">
      <h2 className={panel.heading}>Shared by all lessons of the course</h2>
      <OneEnd end="first" shared={ends.first} path={path} />
      <OneEnd end="last" shared={ends.last} path={path} />
    </section>
  )
}

function OneEnd({ end, shared, path }: { end: End; shared: SharedSteps | null; path: string }) {
  const { store, course } = useDesk()
  const { modal } = App.useApp()
  const lesson = useLesson()
  const chosen = useLessonState(({ selected }) => selected)
  const { mutate, isPending } = useSetEnd(end, shared, path)
  const count = countAtEnd(
    lesson.steps.map(({ id }) => id),
    chosen,
    end,
  )
  const isSame = shared !== null && hasShared(lesson, end, shared)
  const { name, verb, where, added } = ENDS[end]
  const askToShare = (steps: SharedSteps) =>
    modal.confirm({
      title: `${verb === 'begin' ? 'Begin' : 'End'} every lesson of ${course.title} with ${saySteps(steps)}?`,
      content: `${shared ? INSTEAD : added} New lessons follow. It can be undone in each lesson.`,
      okText: 'In all lessons',
      onOk: () => mutate({ steps, isLeft: false }),
    })
  const askToStop = () => {
    const leave = () => {
      mutate({ steps: null, isLeft: true })
      asked.destroy()
    }
    const asked = modal.confirm({
      title: `No longer ${verb} every lesson of ${course.title} with these steps?`,
      content:
        'They go from each lesson that has them as the course has them, which can be undone in each; or each lesson keeps them as its own.',
      okText: 'Take them out',
      onOk: () => mutate({ steps: null, isLeft: false }),
      footer: (_, { OkBtn, CancelBtn }) => (
        <>
          <CancelBtn />
          <Button onClick={leave}>Leave them to each</Button>
          <OkBtn />
        </>
      ),
    })
  }
  const canBeShared = count > 0 && !(isSame && count === shared.steps.length)
  return (
    <div className={styles.end}>
      <p className={styles.note}>
        {name}: <b>{shared ? titlesOf(shared) : 'nothing in common'}</b>
        {shared && !isSame && ' (otherwise in this lesson)'}
        {!shared && count === 0 && `. Select ${where} of this lesson to share them.`}
      </p>
      <div className={styles.buttons}>
        {canBeShared && (
          <Button size="small" loading={isPending} onClick={() => askToShare(stepsAtEnd(lesson, end, count))}>
            {count === 1 ? 'The selected step in all lessons' : `The ${count} selected steps in all lessons`}
          </Button>
        )}
        {shared && !isSame && (
          <Button
            size="small"
            onClick={() => store.getState().edit({ name: 'restore', lesson: withShared(lesson, end, shared) })}
          >
            Here, too
          </Button>
        )}
        {shared && (
          <Button size="small" loading={isPending} onClick={askToStop}>
            Share none
          </Button>
        )}
      </div>
    </div>
  )
}

interface EndChange {
  steps: SharedSteps | null
  /** Lessons keep as their own what they shared until now. */
  isLeft: boolean
}

function useSetEnd(end: End, shared: SharedSteps | null, path: string) {
  const { message } = App.useApp()
  const { id, store } = useDesk()
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (change: EndChange) =>
      call<{ followed: number }>(path, { method: 'PUT', body: { end, ...change, open: id } }),
    onSuccess: ({ followed }, { steps, isLeft }) => {
      const { history, edit } = store.getState()
      const lesson = isLeft ? history.lesson : followShared(history.lesson, end, shared, steps)
      if (lesson !== history.lesson) edit({ name: 'restore', lesson })
      void queries.invalidateQueries({ queryKey: [path] })
      if (isLeft) return void message.success('Each lesson keeps them as its own.')
      void message.success(
        followed === 0 ? 'New lessons follow.' : `${followed} other ${followed === 1 ? 'lesson' : 'lessons'} changed.`,
      )
    },
    onError: (error) => void message.error(error.message),
  })
}

/** How many steps are chosen, where they are the first, or the last, of the lesson; otherwise 0. */
function countAtEnd(steps: readonly string[], chosen: readonly string[], end: End): number {
  const those = end === 'first' ? steps.slice(0, chosen.length) : steps.slice(-chosen.length)
  return chosen.length > 0 && chosen.length < steps.length && those.every((id) => chosen.includes(id))
    ? chosen.length
    : 0
}

const saySteps = ({ steps }: SharedSteps) => (steps.length === 1 ? 'this step' : `these ${steps.length} steps`)
const titlesOf = ({ steps }: SharedSteps) => steps.map(({ title }) => title || 'a step without a title').join(', ')
