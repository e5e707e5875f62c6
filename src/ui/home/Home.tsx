'use client'

import { SearchOutlined } from '@/ui/parts/icons'
import { Button, Input } from 'antd'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { CourseListing } from '@/core/course/listing'
import { say } from '@/messages/say'
import { call } from '../api'
import { Brand } from '../parts/Brand'
import { PreferencesMenu } from '../parts/PreferencesMenu'
import { useFileDrop } from '../uploads/useFileDrop'
import { Course } from './Course'
import { DeletedLately } from './DeletedLately'
import { FirstLesson } from './FirstLesson'
import { NameDialog } from './NameDialog'
import { useChange, useCourses } from './useCourses'
import styles from './home.module.css'

/** Courses and lessons; what is dropped here becomes a first lesson. */
export function Home({ courses: listed }: { courses: CourseListing[] }) {
  const courses = useCourses(listed)
  const [files, setFiles] = useState<File[]>([])
  const [sought, setSought] = useState('')
  const takeFiles = useCallback((added: File[]) => setFiles((all) => [...all, ...added]), [])
  const over = useFileDrop(takeFiles)
  const found = courses
    .map((course) => ({ course, shown: lessonsNamed(course, sought) }))
    .filter(({ shown }) => sought.trim() === '' || shown.length > 0)
  return (
    <div className={styles.home}>
      <header className={styles.header}>
        <Brand />
        <span className={styles.gap} />
        <Input
          allowClear
          type="search"
          prefix={<SearchOutlined aria-hidden />}
          style={{ width: 260 }}
          placeholder={say('home.findALesson')}
          aria-label={say('home.findALesson')}
          value={sought}
          onChange={(event) => setSought(event.target.value)}
        />
        <NewCourse />
        <PreferencesMenu />
      </header>
      <main className={styles.main}>
        <h1 className="visually-hidden">{say('home.coursesAndLessons')}</h1>
        {files.length > 0 ? (
          <FirstLesson files={files} courses={courses} onCancel={() => setFiles([])} />
        ) : (
          <DropPlace over={over} onFiles={setFiles} />
        )}
        {found.map(({ course, shown }) => (
          <Course key={course.id} course={course} courses={courses} shown={shown} />
        ))}
        {found.length === 0 && courses.length > 0 && (
          <p className={styles.note} role="status">
            {say('home.noLessonOrCourse')}
          </p>
        )}
        <DeletedLately />
      </main>
    </div>
  )
}

/** The lessons of a course whose title, or the course's, has these letters in it. */
function lessonsNamed({ title, lessons }: CourseListing, sought: string): CourseListing['lessons'] {
  const has = (text: string) => text.toLocaleLowerCase().includes(sought.trim().toLocaleLowerCase())
  return has(title) ? lessons : lessons.filter((lesson) => has(lesson.title))
}

function DropPlace({ over, onFiles }: { over: boolean; onFiles: (files: File[]) => void }) {
  const input = useRef<HTMLInputElement>(null)
  // Somebody may be quicker than the page: what was chosen before it listened is taken now.
  useEffect(() => {
    const early = [...(input.current?.files ?? [])]
    if (early.length > 0) onFiles(early)
  }, [onFiles])
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
      <b>{say('home.dropSlidesARecording')}</b>
      <span>{say('home.allAtOnceIn')}</span>
      <span className={styles.choose}>{say('home.orChooseFiles')}</span>
      <input
        ref={input}
        type="file"
        multiple
        className="visually-hidden"
        data-testid="first-files"
        onChange={(event) => onFiles([...(event.target.files ?? [])])}
      />
    </label>
  )
}

function NewCourse() {
  const [open, setOpen] = useState(false)
  const change = useChange()
  return (
    <>
      <Button onClick={() => setOpen(true)}>{say('home.newCourse')}</Button>
      {open && (
        <NameDialog
          title={say('home.newCourse')}
          label={say('home.titleOfTheCourse')}
          now=""
          okText={say('home.makeTheCourse')}
          onName={(title) => change(() => call('/api/courses', { body: { title } }))}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  )
}
