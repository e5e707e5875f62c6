'use client'

import { App, Button } from 'antd'
import { creditsText } from '@/core/formats/credits'
import { say } from '@/messages/say'
import { useLesson } from '../lesson/context'
import styles from './finish.module.css'

/** Who made what is seen and heard, to be put under the video. */
export function Credits() {
  const { message } = App.useApp()
  const text = creditsText(useLesson())
  const copy = () =>
    navigator.clipboard.writeText(text).then(
      () => message.success(say('finish.copied')),
      () => message.error(say('finish.theBrowserDidNot')),
    )
  return (
    <section className={styles.card} aria-label={say('finish.credits')}>
      <h2>{say('finish.credits')}</h2>
      <pre className={styles.credits} tabIndex={0} role="region" aria-label={say('finish.textOfTheCredits')}>
        {text}
      </pre>
      <Button size="small" onClick={() => void copy()}>
        {say('finish.copy')}
      </Button>
    </section>
  )
}
