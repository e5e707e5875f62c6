import { Button } from 'antd'
import { bringBack, useChange, useDeleted } from './useCourses'
import styles from './home.module.css'

/** What was deleted within the last month, each to be brought back. */
export function DeletedLately() {
  const deleted = useDeleted()
  const change = useChange()
  if (deleted.length === 0) return null
  return (
    <details className={styles.deleted}>
      <summary>
        {deleted.length === 1 ? 'One thing was deleted lately' : `${deleted.length} things were deleted lately`}
      </summary>
      <ul>
        {deleted.map((one) => (
          <li key={one.id}>
            <span>
              {one.kind === 'course' ? 'Course' : 'Lesson'} “{one.title}”
            </span>
            <span className={styles.note}>
              {new Date(one.at).toLocaleDateString('en-GB', { dateStyle: 'medium' })}; kept for a month
            </span>
            <Button
              size="small"
              aria-label={`Bring back ${one.title}`}
              onClick={() => void change(() => bringBack(one))}
            >
              Bring it back
            </Button>
          </li>
        ))}
      </ul>
    </details>
  )
}
