import Link from 'next/link'
import { say } from '@/messages/say'
import { Brand } from '../parts/Brand'
import styles from './desk.module.css'

/** In place of a lesson whose document this program can't open. */
export function UnreadableLesson({ id }: { id: string }) {
  return (
    <main className={styles.opening}>
      <Brand />
      <h1>{say('lesson.thisLessonCantBe')}</h1>
      <p>{say.rich('lesson.unreadable', { link: (words) => <a href={`/api/lessons/${id}/archive`}>{words}</a> })}</p>
      <Link href="/">{say('lesson.goToYourCourses')}</Link>
    </main>
  )
}
