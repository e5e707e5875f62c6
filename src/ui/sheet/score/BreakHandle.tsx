'use client'

import { useState } from 'react'
import { useDesk } from '../../lesson/context'
import { moveBreak, type WordPlace } from '../../words/moveBreak'
import styles from './row.module.css'

/** The end of a step, dragged to the word before which the next one is to begin. */
export function BreakHandle({ step, left, top, height }: { step: string; left: number; top: number; height: number }) {
  const { store, tell } = useDesk()
  const [over, setOver] = useState<HTMLElement | null>(null)
  const mark = (element: HTMLElement | null) => {
    over?.removeAttribute('data-target')
    element?.setAttribute('data-target', '')
    setOver(element)
  }
  const drop = () => {
    const place = over && placeOf(over)
    mark(null)
    if (!place) return
    const edits = moveBreak(store.getState(), step, place)
    if (typeof edits === 'string') tell(edits)
    else store.getState().editTogether(edits)
  }
  return (
    <span
      className={styles.end}
      style={{ left, top, height }}
      role="separator"
      aria-label="End of the step: drag to a word"
      title="Drag to a word: the next step begins there"
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) mark(wordUnder(event.clientX, event.clientY))
      }}
      onPointerUp={drop}
      onPointerCancel={() => mark(null)}
    />
  )
}

const wordUnder = (x: number, y: number): HTMLElement | null =>
  document.elementsFromPoint(x, y).flatMap((one) => one.closest<HTMLElement>('[data-word]') ?? [])[0] ?? null

function placeOf(element: HTMLElement): WordPlace | null {
  const step = element.closest<HTMLElement>('[data-step]')?.dataset.step
  return step ? { step, word: Number(element.dataset.word) } : null
}
