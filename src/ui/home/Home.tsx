'use client'

import { useQuery, useQueryClient } from '@tanstack/react-query'
import { App, Button, Input, Modal } from 'antd'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useCallback, useState } from 'react'
import type { CourseListing, LessonListing, UnreadableLesson } from '@/core/course/listing'
import { call } from '../api'
import { browserLanguage } from '../language'
import { savesOfLeftLessons } from '../lesson/autosave'
import { clock } from '../format'
import { CourseRoom } from '../course/CourseRoom'
import { Brand } from '../parts/Brand'
import { PictureThumb } from '../parts/PictureThumb'
import { useFileDrop } from '../uploads/useFileDrop'
import { CopyOpening } from './CopyOpening'
import { FirstLesson } from './FirstLesson'
import styles from './home.module.css'

/** Courses and lessons; what is dropped here becomes a first lesson. */
export function Home({ courses: listed }: { courses: CourseListing[] }) {
  const courses = useCourses(listed)
  const [files, setFiles] = useState<File[]>([])
  const takeFiles = useCallback((added: File[]) => setFiles((all) => [...all, ...added]), [])
  const over = useFileDrop(takeFiles)
  return (
    <div className={styles.home}>
      <header className={styles.header}>
        <Brand />
        <span className={styles.gap} />
        <NewCourse />
      </header>
      <main className={styles.main}>
        {files.length > 0 ? (
          <FirstLesson files={files} courses={courses} onCancel={() => setFiles([])} />
        ) : (
          <DropPlace over={over} onFiles={setFiles} />
        )}
        {courses.map((one) => (
          <Course key={one.id} course={one} />
        ))}
      </main>
    </div>
  )
}

const COURSES = ['courses']

/** The courses as they are now: a page that was here before may be out of date. */
function useCourses(listed: CourseListing[]): CourseListing[] {
  const { data } = useQuery({
    queryKey: COURSES,
    queryFn: async () => {
      await savesOfLeftLessons()
      return call<CourseListing[]>('/api/courses')
    },
    initialData: listed,
    refetchOnMount: 'always',
    refetchOnWindowFocus: 'always',
  })
  return data
}

function useReload(): () => Promise<void> {
  const client = useQueryClient()
  return () => client.invalidateQueries({ queryKey: COURSES })
}

function DropPlace({ over, onFiles }: { over: boolean; onFiles: (files: File[]) => void }) {
  return (
    <label className={styles.drop} data-over={over || undefined}>
      <svg viewBox="0 0 120 64" width="120" height="64" aria-hidden="true">
        <path
          d="M4 44h22V30h22V16h24v14h22v14h22"
          fill="none"
          stroke="var(--voice)"
          strokeWidth="4"
          strokeLinejoin="round"
        />
        <path
          d="M4 58h22V44h22V30h24v14h22v14h22"
          fill="none"
          stroke="var(--bed)"
          strokeWidth="4"
          strokeLinejoin="round"
        />
      </svg>
      <b>Drop slides, a recording of your voice and a song here</b>
      <span>All at once, in any order. You get a first lesson in which every slide stays as long as its words.</span>
      <span className={styles.choose}>or choose files</span>
      <input
        type="file"
        multiple
        className="visually-hidden"
        data-testid="first-files"
        onChange={(event) => onFiles([...(event.target.files ?? [])])}
      />
    </label>
  )
}

const NOTHING = { pictures: [], voices: [], music: [] }

function Course({ course }: { course: CourseListing }) {
  const router = useRouter()
  const { message } = App.useApp()
  const [making, setMaking] = useState(false)
  const newLesson = async () => {
    setMaking(true)
    try {
      const body = { course: course.id, title: 'New lesson', language: browserLanguage(), ...NOTHING }
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
          {course.lessons.length === 1 ? '1 lesson' : `${course.lessons.length} lessons`}
          <CourseRoom course={course.id} />
        </span>
        <span className={styles.gap} />
        {course.lessons.length > 0 && <Link href={`/courses/${course.id}`}>Do they sound alike?</Link>}
        <Button loading={making} onClick={() => void newLesson()}>
          New lesson
        </Button>
        <OpenCopy course={course.id} />
      </div>
      <div className={styles.lessons}>
        {course.lessons.map((lesson) =>
          'unreadable' in lesson ? (
            <Unreadable key={lesson.id} lesson={lesson} />
          ) : (
            <Lesson key={lesson.id} lesson={lesson} />
          ),
        )}
        {course.lessons.length === 0 && (
          <p className={styles.note}>No lessons yet. Drop files above, or start an empty one.</p>
        )}
      </div>
    </section>
  )
}

/** A lesson that can't be opened keeps nobody from the others, and can be had as it is. */
function Unreadable({ lesson }: { lesson: UnreadableLesson }) {
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

function Lesson({ lesson }: { lesson: LessonListing }) {
  const reload = useReload()
  const { modal } = App.useApp()
  const remove = () =>
    modal.confirm({
      title: `Delete "${lesson.title}"?`,
      content:
        'Its steps, timings and versions are deleted with it. This can not be undone; save a copy first if in doubt.',
      okText: 'Delete the lesson',
      okButtonProps: { danger: true },
      onOk: async () => {
        await call(`/api/lessons/${lesson.id}`, { method: 'DELETE' })
        await reload()
      },
    })
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
      <span className={styles.remove}>
        <Button size="small" type="text" onClick={remove} aria-label={`Delete ${lesson.title}`}>
          Delete
        </Button>
      </span>
    </article>
  )
}

function OpenCopy({ course }: { course: string }) {
  const [files, setFiles] = useState<File[]>([])
  return (
    <>
      <label className={styles.openCopy}>
        Open a copy…
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

function NewCourse() {
  const [open, setOpen] = useState(false)
  const [title, setTitle] = useState('')
  const reload = useReload()
  const { message } = App.useApp()
  const create = async () => {
    try {
      await call('/api/courses', { body: { title } })
      setOpen(false)
      setTitle('')
      await reload()
    } catch (error) {
      void message.error((error as Error).message)
    }
  }
  return (
    <>
      <Button onClick={() => setOpen(true)}>New course</Button>
      <Modal
        title="New course"
        open={open}
        okText="Make the course"
        okButtonProps={{ disabled: !title.trim() }}
        onOk={() => void create()}
        onCancel={() => setOpen(false)}
      >
        <Input
          aria-label="Title of the course"
          placeholder="Title"
          value={title}
          maxLength={200}
          onChange={(event) => setTitle(event.target.value)}
          onPressEnter={() => title.trim() && void create()}
        />
      </Modal>
    </>
  )
}
