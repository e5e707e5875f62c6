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
import { say } from '@/messages/say'
import { listed } from '../format'
import { call } from '../api'
import { useDesk, useLesson, useLessonState } from '../lesson/context'
import panel from '../sheet/panel.module.css'
import styles from './video.module.css'

const ENDS = {
  first: {
    shared: 'video.everyLessonBegins',
    otherwise: 'video.everyLessonBeginsOtherwise',
    select: 'video.selectTheFirst',
    ask: 'video.askToBegin',
    added: 'video.afterThat',
    askToStop: 'video.noLongerBegin',
  },
  last: {
    shared: 'video.everyLessonEnds',
    otherwise: 'video.everyLessonEndsOtherwise',
    select: 'video.selectTheLast',
    ask: 'video.askToEnd',
    added: 'video.beforeThat',
    askToStop: 'video.noLongerEnd',
  },
} as const

/** The steps that all lessons of the course begin and end with: changed in one place. */
export function CourseEnds() {
  const { course } = useDesk()
  const path = `/api/courses/${course.id}/ends`
  const { data: ends } = useQuery({ queryKey: [path], queryFn: () => call<Ends>(path) })
  if (!ends) return null
  return (
    <section className={styles.part} aria-label={say('video.stepsThatAllLessons')}>
      <h2 className={panel.heading}>{say('video.sharedByAllLessons')}</h2>
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
  const words = ENDS[end]
  const askToShare = (steps: SharedSteps) =>
    modal.confirm({
      title: say(words.ask, { title: course.title, count: steps.steps.length }),
      content: say(shared ? 'video.insteadOfThat' : words.added),
      okText: say('video.inAllLessons'),
      onOk: () => mutate({ steps, isLeft: false }),
    })
  const askToStop = () => {
    const leave = () => {
      mutate({ steps: null, isLeft: true })
      asked.destroy()
    }
    const asked = modal.confirm({
      title: say(words.askToStop, { title: course.title, count: shared?.steps.length ?? 0 }),
      content: say('video.theyGoFromEach'),
      okText: say('video.takeThemOut'),
      onOk: () => mutate({ steps: null, isLeft: false }),
      footer: (_, { OkBtn, CancelBtn }) => (
        <>
          <CancelBtn />
          <Button onClick={leave}>{say('video.leaveThemToEach')}</Button>
          <OkBtn />
        </>
      ),
    })
  }
  const canBeShared = count > 0 && !(isSame && count === shared.steps.length)
  return (
    <div className={styles.end}>
      <p className={styles.note}>
        {say.rich(!shared && count === 0 ? words.select : shared && !isSame ? words.otherwise : words.shared, {
          steps: shared ? titlesOf(shared) : say('video.nothingInCommon'),
          b: (steps) => <b>{steps}</b>,
        })}
      </p>
      <div className={styles.buttons}>
        {canBeShared && (
          <Button size="small" loading={isPending} onClick={() => askToShare(stepsAtEnd(lesson, end, count))}>
            {count === 1 ? say('video.theSelectedStepIn') : say('video.theSelectedStepsIn', { count })}
          </Button>
        )}
        {shared && !isSame && (
          <Button
            size="small"
            onClick={() => store.getState().edit({ name: 'restore', lesson: withShared(lesson, end, shared) })}
          >
            {say('video.hereToo')}
          </Button>
        )}
        {shared && (
          <Button size="small" loading={isPending} onClick={askToStop}>
            {say('video.shareNone')}
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
      call<{ followed: number }>(path, { method: 'PUT', body: { end, before: shared, ...change, open: id } }),
    onSuccess: ({ followed }, { steps, isLeft }) => {
      const { history, edit } = store.getState()
      const lesson = isLeft ? history.lesson : followShared(history.lesson, end, shared, steps)
      if (lesson !== history.lesson) edit({ name: 'restore', lesson })
      void queries.invalidateQueries({ queryKey: [path] })
      if (isLeft) return void message.success(say('video.eachLessonKeepsThem'))
      void message.success(
        followed === 0 ? say('video.newLessonsFollow') : say('video.othersChanged', { count: followed }),
      )
    },
    onError: (error) => {
      void queries.invalidateQueries({ queryKey: [path] })
      void message.error(error.message)
    },
  })
}

/** How many steps are chosen, where they are the first, or the last, of the lesson; otherwise 0. */
function countAtEnd(steps: readonly string[], chosen: readonly string[], end: End): number {
  const those = end === 'first' ? steps.slice(0, chosen.length) : steps.slice(-chosen.length)
  return chosen.length > 0 && chosen.length < steps.length && those.every((id) => chosen.includes(id))
    ? chosen.length
    : 0
}

const titlesOf = ({ steps }: SharedSteps) => listed(steps.map(({ title }) => title || say('video.aStepWithoutA')))
