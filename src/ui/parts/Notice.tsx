import type { ReactNode } from 'react'
import styles from './notice.module.css'

/** Says what is not as it should be, and what can be done about it. */
export function Notice({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div role="alert" className={styles.notice}>
      <p>{title}</p>
      {children}
    </div>
  )
}
