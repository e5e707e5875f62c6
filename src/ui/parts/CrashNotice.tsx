'use client'

import { Button } from 'antd'
import { useEffect, type ReactNode } from 'react'
import styles from './crash.module.css'

/** In place of a part of the page that broke. `what` says what is safe; `children` are further ways out. */
export function CrashNotice({
  error,
  what,
  onAgain,
  children,
}: {
  error: Error
  what: string
  onAgain: () => void
  children?: ReactNode
}) {
  useEffect(() => console.error(error), [error])
  return (
    <section className={styles.crash} role="alert">
      <h1>Something in this page broke</h1>
      <p>{what}</p>
      <p className={styles.ways}>
        <Button type="primary" onClick={onAgain}>
          Try again
        </Button>
        <Button onClick={() => location.reload()}>Reload the page</Button>
        {children}
      </p>
      <details>
        <summary>For whoever looks after this program</summary>
        <pre>{error.stack ?? error.message}</pre>
      </details>
    </section>
  )
}
