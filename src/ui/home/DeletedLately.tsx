import { Button } from 'antd'
import { say } from '@/messages/say'
import { date } from '../format'
import { bringBack, useChange, useDeleted } from './useCourses'
import styles from './home.module.css'

/** What was deleted within the last month, each to be brought back. */
export function DeletedLately() {
  const deleted = useDeleted()
  const change = useChange()
  if (deleted.length === 0) return null
  return (
    <details className={styles.deleted}>
      <summary>{say('home.deletedLately', { count: deleted.length })}</summary>
      <ul>
        {deleted.map((one) => (
          <li key={one.id}>
            <span>
              {say(one.kind === 'course' ? 'home.deletedCourse' : 'home.deletedLesson', { title: one.title })}
            </span>
            <span className={styles.note}>{say('home.keptForAMonth', { date: date(one.at) })}</span>
            <Button
              size="small"
              aria-label={say('home.bringBack', { title: one.title })}
              onClick={() => void change(() => bringBack(one))}
            >
              {say('home.bringItBack')}
            </Button>
          </li>
        ))}
      </ul>
    </details>
  )
}
