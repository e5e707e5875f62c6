import { MoreOutlined } from '@/ui/parts/icons'
import { App, Button, Dropdown, type MenuProps } from 'antd'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { CourseListing } from '@/core/course/listing'
import { say } from '@/messages/say'
import { call } from '../api'
import { CourseRoom } from '../course/CourseRoom'
import { browserLanguage } from '../language'
import { CopyOpening } from './CopyOpening'
import { LessonCard, UnreadableCard } from './LessonCard'
import { NameDialog } from './NameDialog'
import { useChange, useRemoval } from './useCourses'
import styles from './home.module.css'

const NOTHING = { pictures: [], voices: [], music: [] }

/** `shown`: the lessons that are looked for. */
export function Course({
  course,
  courses,
  shown,
}: {
  course: CourseListing
  courses: readonly CourseListing[]
  shown: CourseListing['lessons']
}) {
  const router = useRouter()
  const { message } = App.useApp()
  const [making, setMaking] = useState(false)
  const newLesson = async () => {
    setMaking(true)
    try {
      const body = { course: course.id, title: say('home.newLesson'), language: browserLanguage(), ...NOTHING }
      router.push(`/lessons/${(await call<{ id: string }>('/api/lessons', { body })).id}`)
    } catch (error) {
      setMaking(false)
      void message.error((error as Error).message)
    }
  }
  return (
    <section className={styles.course} aria-label={course.title}>
      <div className={styles.courseHead}>
        <h2>{course.title}</h2>
        <span className={styles.note}>
          {say('home.lessons', { count: course.lessons.length })}
          <CourseRoom course={course.id} />
        </span>
        <span className={styles.gap} />
        {course.lessons.length > 0 && (
          <>
            <Link href={`/courses/${course.id}`}>{say('home.doTheySoundAlike')}</Link>
            <Link href={`/courses/${course.id}/make`}>{say('home.makeTheWholeCourse')}</Link>
          </>
        )}
        <Button loading={making} onClick={() => void newLesson()}>
          {say('home.newLesson')}
        </Button>
        <OpenCopy course={course.id} />
        <CourseMenu course={course} courses={courses} />
      </div>
      <div className={styles.lessons}>
        {shown.map((lesson) =>
          'unreadable' in lesson ? (
            <UnreadableCard key={lesson.id} lesson={lesson} />
          ) : (
            <LessonCard key={lesson.id} lesson={lesson} course={course} courses={courses} />
          ),
        )}
        {course.lessons.length === 0 && <p className={styles.note}>{say('home.noLessonsYetDrop')}</p>}
      </div>
    </section>
  )
}

function CourseMenu({ course, courses }: { course: CourseListing; courses: readonly CourseListing[] }) {
  const [renaming, setRenaming] = useState(false)
  const change = useChange()
  const remove = useRemoval()
  const order = courses.map(({ id }) => id)
  const at = order.indexOf(course.id)
  const move = (by: number) => {
    const next = order.toSpliced(at, 1).toSpliced(at + by, 0, course.id)
    void change(() => call('/api/courses', { method: 'PATCH', body: { order: next } }))
  }
  const items: MenuProps['items'] = [
    { key: 'rename', label: say('home.rename'), onClick: () => setRenaming(true) },
    {
      key: 'copy',
      label: (
        <a href={`/api/courses/${course.id}/archive`} download>
          {say('home.saveACopyOf')}
        </a>
      ),
    },
    { key: 'up', label: say('home.moveUp'), disabled: at === 0, onClick: () => move(-1) },
    { key: 'down', label: say('home.moveDown'), disabled: at === order.length - 1, onClick: () => move(1) },
    { type: 'divider' },
    {
      key: 'delete',
      label: course.lessons.length > 0 ? say('home.deleteWithItsLessons') : say('home.delete'),
      danger: true,
      onClick: () => void remove({ kind: 'course', id: course.id, title: course.title }),
    },
  ]
  return (
    <>
      <Dropdown trigger={['click']} menu={{ items }} destroyOnHidden>
        <Button type="text" icon={<MoreOutlined />} aria-label={say('home.whatToDoWith', { title: course.title })} />
      </Dropdown>
      {renaming && (
        <NameDialog
          title={say('home.renameTheCourse')}
          label={say('home.titleOfTheCourse')}
          now={course.title}
          okText={say('home.renameNow')}
          onName={(title) => change(() => call(`/api/courses/${course.id}`, { method: 'PATCH', body: { title } }))}
          onClose={() => setRenaming(false)}
        />
      )}
    </>
  )
}

function OpenCopy({ course }: { course: string }) {
  const [files, setFiles] = useState<File[]>([])
  return (
    <>
      <label className={styles.openCopy}>
        {say('home.openACopy')}
        <input
          type="file"
          accept=".zip"
          className="visually-hidden"
          data-testid="open-copy"
          onChange={(event) => setFiles([...(event.target.files ?? [])])}
        />
      </label>
      {files.length > 0 && <CopyOpening file={files[0]!} course={course} onClose={() => setFiles([])} />}
    </>
  )
}
