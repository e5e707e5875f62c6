'use client'

import { Button } from 'antd'
import type { ReactNode } from 'react'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from '../../lesson/context'
import type { SheetActions } from '../actions/actions'
import { hangPickedAtCaret } from '../actions/thingActions'
import styles from '../panel.module.css'

interface ThingHeadProps {
  /** Such as `Sound`. */
  kind: string
  title: string
  /** Where it is. */
  place: ReactNode
  actions: SheetActions
  /** Only sounds stand between words. */
  hasMoments?: boolean
}

/** What is picked, where it is, and how it gets elsewhere. */
export function ThingHead({ kind, title, place, actions, hasMoments = false }: ThingHeadProps) {
  const { store, tell } = useDesk()
  const caret = useLessonState((state) => state.caret)
  return (
    <>
      <h2 className={styles.heading}>
        {kind} · {title}
      </h2>
      <p className={styles.note}>{place}</p>
      <div className={styles.actions}>
        <Button size="small" onClick={actions.wordBack}>
          {say('selected.aWordEarlier')}
        </Button>
        <Button size="small" onClick={actions.wordOn}>
          {say('selected.aWordLater')}
        </Button>
        {hasMoments && (
          <>
            <Button size="small" onClick={actions.thingEarlier}>
              {say('selected.tenthEarlier')}
            </Button>
            <Button size="small" onClick={actions.thingLater}>
              {say('selected.tenthLater')}
            </Button>
          </>
        )}
        <Button size="small" disabled={!caret} onClick={() => hangPickedAtCaret({ state: store.getState, tell })}>
          {say('selected.toTheCaret')}
        </Button>
        <Button size="small" danger onClick={actions.remove}>
          {say('selected.takeItOut')}
        </Button>
      </div>
    </>
  )
}
