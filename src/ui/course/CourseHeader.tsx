'use client'

import Link from 'next/link'
import { say } from '@/messages/say'
import { Brand } from '../parts/Brand'
import { PreferencesMenu } from '../parts/PreferencesMenu'
import styles from './course.module.css'

/** Above what concerns a whole course: where one is, and what else there is. */
export function CourseHeader({ course, place }: { course: { id: string; title: string }; place: 'balance' | 'make' }) {
  return (
    <header className={styles.header}>
      <Brand />
      <nav aria-label={say('course.place')}>
        <Link href="/">{say('course.courses')}</Link> / <b>{course.title}</b>
      </nav>
      <span style={{ flex: 1 }} />
      <nav aria-label={say('course.ofTheWholeCourse')} className={styles.places}>
        <Link href={`/courses/${course.id}`} aria-current={place === 'balance' ? 'page' : undefined}>
          {say('course.doTheySoundAlike')}
        </Link>
        <Link href={`/courses/${course.id}/make`} aria-current={place === 'make' ? 'page' : undefined}>
          {say('course.makeTheWholeCourse')}
        </Link>
      </nav>
      <PreferencesMenu />
    </header>
  )
}
