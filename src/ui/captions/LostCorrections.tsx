'use client'

import { Button } from 'antd'
import { useMemo } from 'react'
import { lostCorrections } from '@/core/captions/corrections'
import { say } from '@/messages/say'
import { useDesk, useLesson } from '../lesson/context'
import styles from './captions.module.css'

/** Corrected captions whose words are said nowhere any more. They come back with their words. */
export function LostCorrections() {
  const { store } = useDesk()
  const { captionCorrections, steps, sounds } = useLesson()
  const lost = useMemo(() => lostCorrections(captionCorrections, steps, sounds), [captionCorrections, steps, sounds])
  if (lost.length === 0) return null
  return (
    <div className={styles.lost} role="note">
      <p>{say('captions.lostCorrections', { count: lost.length })}</p>
      <ul>
        {lost.map(({ words, text }) => (
          <li key={words}>“{text.replaceAll('\n', ' ') || words}”</li>
        ))}
      </ul>
      <Button
        size="small"
        onClick={() =>
          store.getState().edit({ name: 'correctCaptions', put: [], remove: lost.map(({ words }) => words) })
        }
      >
        {say('captions.takeAway', { count: lost.length })}
      </Button>
    </div>
  )
}
