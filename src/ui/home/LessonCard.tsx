import { MoreOutlined } from '@/ui/parts/icons'
import { Button, Dropdown, type MenuProps } from 'antd'
import Link from 'next/link'
import { useState } from 'react'
import type { CourseListing, LessonListing, UnreadableLesson } from '@/core/course/listing'
import { say } from '@/messages/say'
import { call } from '../api'
import { clock } from '../format'
import { PictureThumb } from '../parts/PictureThumb'
import { MoveDialog } from './MoveDialog'
import { NameDialog } from './NameDialog'
import { useChange, useRemoval } from './useCourses'
import styles from './home.module.css'

/** A lesson that can't be opened keeps nobody from the others, and can be had as it is. */
export function UnreadableCard({ lesson }: { lesson: UnreadableLesson }) {
  return (
    <article className={styles.lesson} data-unreadable="yes">
      <span className={styles.cover} />
      <b>{lesson.title}</b>
      <span className={styles.note}>
        {say.rich('home.unreadable', {
          link: (words) => <a href={`/api/lessons/${lesson.id}/archive`}>{words}</a>,
        })}
      </span>
    </article>
  )
}

export function LessonCard({
  lesson,
  course,
  courses,
}: {
  lesson: LessonListing
  course: CourseListing
  courses: readonly CourseListing[]
}) {
  const [renaming, setRenaming] = useState(false)
  const [moving, setMoving] = useState(false)
  const change = useChange()
  const remove = useRemoval()
  const path = `/api/lessons/${lesson.id}`
  const patch = (body: object) => change(() => call(path, { method: 'PATCH', body }))
  const order = course.lessons.map(({ id }) => id)
  const at = order.indexOf(lesson.id)
  const move = (by: number) => {
    const next = order.toSpliced(at, 1).toSpliced(at + by, 0, lesson.id)
    void change(() => call(`/api/courses/${course.id}`, { method: 'PATCH', body: { lessons: next } }))
  }
  const others = courses.filter(({ id }) => id !== course.id)
  const items: MenuProps['items'] = [
    { key: 'rename', label: say('home.rename'), onClick: () => setRenaming(true) },
    {
      key: 'copy',
      label: say('home.duplicate'),
      onClick: () => void change(() => call(`${path}/copy`, { method: 'POST' })),
    },
    { type: 'divider' },
    { key: 'earlier', label: say('home.moveEarlier'), disabled: at === 0, onClick: () => move(-1) },
    { key: 'later', label: say('home.moveLater'), disabled: at === order.length - 1, onClick: () => move(1) },
    {
      key: 'course',
      label: say('home.moveToAnotherCourse'),
      disabled: others.length === 0,
      onClick: () => setMoving(true),
    },
    { type: 'divider' },
    {
      key: 'delete',
      label: say('home.delete'),
      danger: true,
      onClick: () => void remove({ kind: 'lesson', id: lesson.id, title: lesson.title }),
    },
  ]
  return (
    <article className={styles.lesson}>
      <Link href={`/lessons/${lesson.id}`}>
        {lesson.cover ? (
          <PictureThumb picture={lesson.cover} className={styles.cover} />
        ) : (
          <span className={styles.cover} />
        )}
        <b>{lesson.title}</b>
        <span className={styles.note}>
          {say(lesson.standIns > 0 ? 'home.stepsAndStandIns' : 'home.steps', {
            count: lesson.steps,
            length: clock(lesson.length, false),
            standIns: lesson.standIns,
          })}
        </span>
        {lesson.waiting > 0 && <span className={styles.waiting}>{say('home.waiting', { count: lesson.waiting })}</span>}
      </Link>
      <span className={styles.more}>
        <Dropdown trigger={['click']} menu={{ items }} destroyOnHidden>
          <Button
            type="text"
            icon={<MoreOutlined />}
            aria-label={say('home.whatToDoWithLesson', { title: lesson.title })}
          />
        </Dropdown>
      </span>
      {moving && (
        <MoveDialog
          lesson={lesson.title}
          courses={others}
          onMove={(to) => patch({ course: to })}
          onClose={() => setMoving(false)}
        />
      )}
      {renaming && (
        <NameDialog
          title={say('home.renameTheLesson')}
          label={say('home.titleOfTheLesson')}
          now={lesson.title}
          okText={say('home.renameNow')}
          onName={(title) => patch({ title })}
          onClose={() => setRenaming(false)}
        />
      )}
    </article>
  )
}
