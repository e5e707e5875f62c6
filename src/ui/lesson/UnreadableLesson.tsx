import Link from 'next/link'
import { Brand } from '../parts/Brand'
import styles from './desk.module.css'

/** In place of a lesson whose document this program can't open. */
export function UnreadableLesson({ id }: { id: string }) {
  return (
    <main className={styles.opening}>
      <Brand />
      <h1>This lesson can’t be opened here</h1>
      <p>
        It was made by a newer version of this program, or it is damaged. Nothing of it is lost:{' '}
        <a href={`/api/lessons/${id}/archive`}>download it with all its files</a>, and keep that until it can be opened.
      </p>
      <Link href="/">Go to your courses</Link>
    </main>
  )
}
