'use client'

import { App, Button } from 'antd'
import { creditsText } from '@/core/formats/credits'
import { useLesson } from '../lesson/context'
import styles from './finish.module.css'

/** Who made what is seen and heard, to be put under the video. */
export function Credits() {
  const { message } = App.useApp()
  const text = creditsText(useLesson())
  const copy = () =>
    navigator.clipboard.writeText(text).then(
      () => message.success('Copied.'),
      () => message.error('The browser did not allow it. Select the text and copy it.'),
    )
  return (
    <section className={styles.card} aria-label="Credits">
      <h2>Credits</h2>
      <pre className={styles.credits} tabIndex={0} role="region" aria-label="Text of the credits">
        {text}
      </pre>
      <Button size="small" onClick={() => void copy()}>
        Copy
      </Button>
    </section>
  )
}
