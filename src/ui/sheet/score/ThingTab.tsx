'use client'

import { useState, type CSSProperties, type PointerEvent, type ReactNode } from 'react'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from '../../lesson/context'
import type { Picked } from '../../lesson/lessonStore'
import { hangOn, thingPicked } from '../../words/picked'
import { useSheetView } from './view'
import { markTarget, placeUnder } from './wordUnder'

/** A press that moves further than this drags, in pixels. */
const DRAG = 5

interface ThingTabProps {
  picked: Picked
  label: string
  className: string
  style: CSSProperties
  children: ReactNode
}

/** A tab on the sheet: pressed, it is picked and its settings are shown; dragged to a word, it hangs there. */
export function ThingTab({ picked, label, className, style, children }: ThingTabProps) {
  const { store, tell } = useDesk()
  const isPicked = useLessonState((state) => state.picked?.id === picked.id)
  const [drag, setDrag] = useState<{ x: number; y: number; by: [number, number] | null } | null>(null)
  const pick = () => {
    store.getState().pick(picked)
    useSheetView.getState().setPanel('selected')
  }
  const move = (event: PointerEvent) => {
    if (!drag) return
    const by: [number, number] = [event.clientX - drag.x, event.clientY - drag.y]
    if (!drag.by && Math.hypot(...by) < DRAG) return
    if (!drag.by) pick()
    setDrag({ ...drag, by })
    markTarget(event)
  }
  const drop = (event: PointerEvent) => {
    const place = drag?.by && placeUnder(event)
    setDrag(null)
    markTarget(null)
    const thing = thingPicked(store.getState().history.lesson, picked)
    if (!place || !thing) return
    const edits = hangOn(store.getState(), thing, place)
    if (typeof edits === 'string') tell(edits)
    else store.getState().edit(...edits)
  }
  return (
    <button
      className={className}
      style={{ ...style, ...(drag?.by && { translate: `${drag.by[0]}px ${drag.by[1]}px` }) }}
      data-thing={picked.id}
      data-kind={picked.kind}
      data-dragged={drag?.by ? '' : undefined}
      aria-pressed={isPicked}
      title={say('score.dragItToA', { label })}
      onClick={pick}
      onPointerDown={(event) => {
        if (event.button !== 0) return
        event.currentTarget.setPointerCapture(event.pointerId)
        setDrag({ x: event.clientX, y: event.clientY, by: null })
      }}
      onPointerMove={move}
      onPointerUp={drop}
      onPointerCancel={() => {
        setDrag(null)
        markTarget(null)
      }}
    >
      {children}
    </button>
  )
}
