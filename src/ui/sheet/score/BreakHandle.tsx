'use client'

import type { KeyboardEvent } from 'react'
import { say } from '@/messages/say'
import { useDesk } from '../../lesson/context'
import type { WordPlace } from '../../lesson/lessonStore'
import { wordsOfStep } from '../../words/caret'
import { moveBreak } from '../../words/moveBreak'
import { markTarget, placeUnder } from './wordUnder'
import styles from './row.module.css'

/** The end of a step, dragged to the word before which the next one is to begin. */
export function BreakHandle({ step, left, top, height }: { step: string; left: number; top: number; height: number }) {
  const { store, tell } = useDesk()
  const moveTo = (place: WordPlace | null) => {
    if (!place) return
    const edits = moveBreak(store.getState(), step, place)
    if (typeof edits === 'string') tell(edits)
    else store.getState().edit(...edits)
  }
  /** The last word of this step goes to the next one, or the first of that comes here. */
  const push = (event: KeyboardEvent) => {
    const { steps } = store.getState().history.lesson
    const next = steps[steps.findIndex(({ id }) => id === step) + 1]
    const last = wordsOfStep(store.getState(), step).length - 1
    if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return
    event.preventDefault()
    moveTo(event.key === 'ArrowLeft' ? { step, word: last } : next ? { step: next.id, word: 1 } : null)
  }
  return (
    <span
      className={styles.end}
      style={{ left, top, height }}
      role="separator"
      aria-orientation="vertical"
      aria-label={say('score.endOfTheStep')}
      aria-valuenow={Math.round(left)}
      title={say('score.dragToAWord')}
      tabIndex={0}
      onKeyDown={push}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) markTarget(event)
      }}
      onPointerUp={(event) => {
        markTarget(null)
        moveTo(placeUnder(event))
      }}
      onPointerCancel={() => markTarget(null)}
    />
  )
}
