'use client'

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button } from 'antd'
import { adoptStyle, differences, styleOf, type CourseStyle, type StyleKey } from '@/core/course/courseStyle'
import { say } from '@/messages/say'
import { listed } from '../format'
import { call } from '../api'
import { useDesk, useLesson } from '../lesson/context'
import styles from './video.module.css'

const names = (): Record<StyleKey, string> => ({
  frame: say('video.shapeAndSize'),
  framing: say('video.picturesOfAnotherShape'),
  look: say('video.lettersAndColours'),
  edge: say('video.howPicturesGiveWay'),
  opening: say('video.theOpening'),
  closing: say('video.theClosing'),
  lengths: say('video.howLongStepsStay'),
})

/** Whether a lesson looks as its course does, and how the one becomes as the other. */
export function CourseStyleNote() {
  const { course, store } = useDesk()
  const { message } = App.useApp()
  const lesson = useLesson()
  const path = `/api/courses/${course.id}/style`
  const queries = useQueryClient()
  const { data: style } = useQuery({ queryKey: [path], queryFn: () => call<CourseStyle | null>(path) })
  const { mutate, isPending } = useMutation({
    mutationFn: () =>
      call<{ followed: number }>(path, { method: 'PUT', body: { style: styleOf(lesson), before: style } }),
    onSuccess: ({ followed }) => {
      void queries.invalidateQueries({ queryKey: [path] })
      void message.success(
        followed === 0 ? say('video.newLessonsWillLook') : say('video.otherLessonsLookLike', { followed }),
      )
    },
    onError: (error) => {
      void queries.invalidateQueries({ queryKey: [path] })
      void message.error(error.message)
    },
  })
  if (style === undefined) return null
  const different = style && differences(lesson, style)
  return (
    <section className={styles.part} aria-label={say('video.thisLessonAndIts')}>
      <p className={styles.note}>
        {!different
          ? say('video.theCourseSaysNothing', { title: course.title })
          : different.length === 0
            ? say('video.asInTheWhole', { title: course.title })
            : say('video.differs', { what: listed(different.map((key) => names()[key])) })}
      </p>
      {different?.length !== 0 && (
        <div className={styles.buttons}>
          {style && (
            <Button size="small" onClick={() => store.getState().edit(...adoptStyle(style))}>
              {say('video.asInTheCourse')}
            </Button>
          )}
          <Button size="small" loading={isPending} onClick={() => mutate()}>
            {say('video.soInTheWhole')}
          </Button>
        </div>
      )}
    </section>
  )
}
