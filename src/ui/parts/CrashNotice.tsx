'use client'

import { Button } from 'antd'
import { useEffect, type ReactNode } from 'react'
import { say } from '@/messages/say'
import styles from './crash.module.css'

/** In place of a part of the page that broke, as its title says. `what` says what is safe; `children` are further ways out. */
export function CrashNotice({
  error,
  title,
  what,
  onAgain,
  children,
}: {
  error: Error
  title?: string | undefined
  what: string
  /** None where only loading the page again can help. */
  onAgain?: (() => void) | undefined
  children?: ReactNode
}) {
  useEffect(() => console.error(error), [error])
  return (
    <section className={styles.crash} role="alert">
      <h1>{title ?? say('parts.somethingInThisPage')}</h1>
      <p>{what}</p>
      <p className={styles.ways}>
        {onAgain && (
          <Button type="primary" onClick={onAgain}>
            {say('parts.tryAgain')}
          </Button>
        )}
        <Button type={onAgain ? 'default' : 'primary'} onClick={() => location.reload()}>
          {say('parts.reloadThePage')}
        </Button>
        {children}
      </p>
      <details>
        <summary>{say('parts.forWhoeverLooksAfter')}</summary>
        <pre>{error.stack ?? error.message}</pre>
      </details>
    </section>
  )
}
