'use client'

import { useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Area } from '@/core/lesson/layers'
import { say } from '@/messages/say'
import { useDesk, useLesson, useLessonState } from '../lesson/context'
import { layerTitle } from './layerNames'
import { thingPicked } from '../words/picked'
import { dragged, usePlacing, type Handle, type Placed } from './placing'
import styles from './over.module.css'

const HANDLES: Exclude<Handle, 'move'>[] = ['upper left', 'upper right', 'lower left', 'lower right']
/** By keys, in shares of the frame. */
const STEP = 0.01
const LONG_STEP = 0.05

/** The picked layer's frame on the easel: dragged, made larger or smaller, or moved by arrow keys. */
export function Placing() {
  const { store } = useDesk()
  const lesson = useLesson()
  const thing = thingPicked(
    lesson,
    useLessonState((state) => state.picked),
  )
  const { draft, drag } = usePlacing()
  const [start, setStart] = useState<{ x: number; y: number; handle: Handle } | null>(null)
  const [lines, setLines] = useState<Pick<Placed, 'across' | 'down'> | null>(null)
  if (thing?.kind !== 'layer') return null
  const { layer, step } = thing
  const area = draft?.id === layer.id ? draft.area : layer.area
  const put = (next: Area) =>
    store.getState().edit({ name: 'setLayer', step: step.id, layer: { ...layer, area: inBounds(next) } })

  const begin = (handle: Handle) => (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return
    event.stopPropagation()
    event.currentTarget.setPointerCapture(event.pointerId)
    setStart({ x: event.clientX, y: event.clientY, handle })
  }
  const move = (event: PointerEvent<HTMLElement>) => {
    if (!start) return
    const frame = event.currentTarget.closest('[data-testid=easel]')!.getBoundingClientRect()
    const [dx, dy] = [(event.clientX - start.x) / frame.width, (event.clientY - start.y) / frame.height]
    const placed = dragged(layer.area, start.handle, dx, dy, event.altKey)
    drag({ id: layer.id, area: inBounds(placed.area) })
    setLines(placed)
  }
  const end = () => {
    setStart(null)
    setLines(null)
    if (draft) put(draft.area)
    drag(null)
  }
  const onKey = (event: KeyboardEvent) => {
    const [dx, dy] = ARROWS[event.key] ?? []
    if (dx === undefined || dy === undefined) return
    event.preventDefault()
    event.stopPropagation()
    const by = event.ctrlKey || event.metaKey ? LONG_STEP : STEP
    const { x, y, width, height } = layer.area
    put(
      event.shiftKey
        ? { x, y, width: width + dx * by, height: height + dy * by }
        : { x: x + dx * by, y: y + dy * by, width, height },
    )
  }
  const drags = { onPointerMove: move, onPointerUp: end, onPointerCancel: end }
  return (
    <>
      {lines?.across.map((line) => (
        <i key={`across ${line}`} className={styles.guide} style={{ left: `${line * 100}%`, top: 0, bottom: 0 }} />
      ))}
      {lines?.down.map((line) => (
        <i key={`down ${line}`} className={styles.guide} style={{ top: `${line * 100}%`, left: 0, right: 0 }} />
      ))}
      <div
        className={styles.box}
        role="group"
        tabIndex={0}
        aria-label={say('over.onThePictureArrows', { layer: layerTitle(layer) })}
        style={{
          left: `${area.x * 100}%`,
          top: `${area.y * 100}%`,
          width: `${area.width * 100}%`,
          height: `${area.height * 100}%`,
        }}
        onKeyDown={onKey}
        onPointerDown={begin('move')}
        {...drags}
      >
        {HANDLES.map((handle) => (
          <i key={handle} className={styles.handle} data-corner={handle} onPointerDown={begin(handle)} />
        ))}
      </div>
    </>
  )
}

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

/** So that some of it is always in the frame. */
function inBounds({ x, y, width, height }: Area): Area {
  const round = (value: number) => Math.round(value * 10_000) / 10_000
  const size = (value: number) => round(Math.min(1.5, Math.max(0.02, value)))
  const place = (value: number, length: number) => round(Math.min(0.98, Math.max(0.02 - length, value)))
  return { x: place(x, width), y: place(y, height), width: size(width), height: size(height) }
}
