import { MoreOutlined } from '@ant-design/icons'
import { Button, Dropdown, type MenuProps } from 'antd'
import Link from 'next/link'
import { useState } from 'react'
import type { CourseListing, LessonListing, UnreadableLesson } from '@/core/course/listing'
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
        can’t be opened here; nothing of it is lost.{' '}
        <a href={`/api/lessons/${lesson.id}/archive`}>Download it with its files</a>
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
    { key: 'rename', label: 'Rename…', onClick: () => setRenaming(true) },
    {
      key: 'copy',
      label: 'Duplicate',
      onClick: () => void change(() => call(`${path}/copy`, { method: 'POST' })),
    },
    { type: 'divider' },
    { key: 'earlier', label: 'Move earlier', disabled: at === 0, onClick: () => move(-1) },
    { key: 'later', label: 'Move later', disabled: at === order.length - 1, onClick: () => move(1) },
    {
      key: 'course',
      label: 'Move to another course…',
      disabled: others.length === 0,
      onClick: () => setMoving(true),
    },
    { type: 'divider' },
    {
      key: 'delete',
      label: 'Delete',
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
          {lesson.steps} steps · {clock(lesson.length, false)}
          {lesson.standIns > 0 && ` · ${lesson.standIns} ${lesson.standIns === 1 ? 'stand-in' : 'stand-ins'}`}
        </span>
      </Link>
      <span className={styles.more}>
        <Dropdown trigger={['click']} menu={{ items }} destroyOnHidden>
          <Button type="text" icon={<MoreOutlined />} aria-label={`What to do with ${lesson.title}`} />
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
          title="Rename the lesson"
          label="Title of the lesson"
          now={lesson.title}
          okText="Rename"
          onName={(title) => patch({ title })}
          onClose={() => setRenaming(false)}
        />
      )}
    </article>
  )
}
