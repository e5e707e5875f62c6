'use client'

import { Button } from 'antd'
import type { Loose } from '@/core/lesson/timeline'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from '../lesson/context'
import { Notice } from '../parts/Notice'
import { hangAnew, sayLoose, takeOut } from '../words/hang'
import styles from './panel.module.css'

/** Asks of each where it belongs. */
export function LooseNotices({ loose }: { loose: readonly Loose[] }) {
  const { store } = useDesk()
  const state = useLessonState((all) => all)
  const { edit } = store.getState()
  return <div className={styles.loose}>{loose.map(notice)}</div>

  function notice(one: Loose) {
    const anew = hangAnew(state, one)
    const isOfEnd = one.kind === 'bed-end' || one.kind === 'layer-end'
    const thing = sayLoose(state, one)
    return (
      <Notice
        key={`${one.kind} ${one.id}`}
        title={isOfEnd ? say('sheet.hasLostItsEnd', { thing }) : say('sheet.hasComeLoose', { thing })}
      >
        {isOfEnd ? say('sheet.whatItEndedWithIsGone') : say('sheet.whatItHungOnIsGone')}
        <div className={styles.actions}>
          <Button size="small" disabled={!anew} onClick={() => anew && edit(...anew)}>
            {isOfEnd ? say('sheet.endItHere') : say('sheet.hangItOnThe')}
          </Button>
          <Button size="small" onClick={() => edit(...takeOut(one))}>
            {isOfEnd ? say('sheet.needsNoEnd') : say('sheet.takeItOut')}
          </Button>
        </div>
      </Notice>
    )
  }
}
