'use client'

import { Button } from 'antd'
import type { Loose } from '@/core/lesson/timeline'
import { say } from '@/messages/say'
import { useDesk, useLessonState, useTimeline } from '../lesson/context'
import { Notice } from '../parts/Notice'
import { hangAnew, sayLoose, takeOut } from '../words/hang'
import styles from './panel.module.css'

/** What has lost the words it hung on: it is kept, and asks where it belongs. */
export function LooseThings({ which }: { which: (loose: Loose) => boolean }) {
  const { store } = useDesk()
  const timeline = useTimeline()
  const state = useLessonState((all) => all)
  const { edit } = store.getState()
  const loose = timeline.loose.filter(which)
  if (loose.length === 0) return null
  return <div className={styles.loose}>{loose.map(notice)}</div>

  function notice(loose: Loose) {
    const anew = hangAnew(state, loose)
    return (
      <Notice key={loose.id} title={say('sheet.hasComeLoose', { thing: sayLoose(state, loose) })}>
        {say('sheet.whatItHungOnIsGone')}
        <div className={styles.actions}>
          <Button size="small" disabled={!anew} onClick={() => anew && edit(...anew)}>
            {say('sheet.hangItOnThe')}
          </Button>
          <Button size="small" onClick={() => edit(...takeOut(loose))}>
            {say('sheet.takeItOut')}
          </Button>
        </div>
      </Notice>
    )
  }
}
