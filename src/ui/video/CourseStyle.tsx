'use client'

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button } from 'antd'
import { adoptStyle, differences, styleOf, type CourseStyle, type StyleKey } from '@/core/course/courseStyle'
import { call } from '../api'
import { useDesk, useLesson } from '../lesson/context'
import styles from './video.module.css'

const NAMES: Record<StyleKey, string> = {
  frame: 'shape and size',
  framing: 'pictures of another shape',
  look: 'letters and colours',
  edge: 'how pictures give way',
  opening: 'the opening',
  closing: 'the closing',
  lengths: 'how long steps stay',
}

/** Whether a lesson looks as its course does, and how the one becomes as the other. */
export function CourseStyleNote() {
  const { course, store } = useDesk()
  const { message } = App.useApp()
  const lesson = useLesson()
  const path = `/api/courses/${course.id}/style`
  const queries = useQueryClient()
  const { data: style } = useQuery({ queryKey: [path], queryFn: () => call<CourseStyle | null>(path) })
  const { mutate, isPending } = useMutation({
    mutationFn: () => call<{ followed: number }>(path, { method: 'PUT', body: styleOf(lesson) }),
    onSuccess: ({ followed }) => {
      void queries.invalidateQueries({ queryKey: [path] })
      void message.success(
        followed === 0 ? 'New lessons will look like this.' : `${followed} other lessons look like this now.`,
      )
    },
    onError: (error) => void message.error(error.message),
  })
  if (style === undefined) return null
  const different = style && differences(lesson, style)
  return (
    <section className={styles.part} aria-label="This lesson and its course">
      <p className={styles.note}>
        {!different
          ? `The course ${course.title} says nothing of this yet.`
          : different.length === 0
            ? `As in the whole course ${course.title}.`
            : `Differs from the course: ${different.map((key) => NAMES[key]).join(', ')}.`}
      </p>
      {different?.length !== 0 && (
        <div className={styles.buttons}>
          {style && (
            <Button size="small" onClick={() => store.getState().edit(...adoptStyle(style))}>
              As in the course
            </Button>
          )}
          <Button size="small" loading={isPending} onClick={() => mutate()}>
            So in the whole course
          </Button>
        </div>
      )}
    </section>
  )
}
