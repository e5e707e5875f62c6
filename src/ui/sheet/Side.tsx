'use client'

import { useState, type KeyboardEvent } from 'react'
import { say } from '@/messages/say'
import { useLessonState } from '../lesson/context'
import { Easel } from '../easel/Easel'
import { Late } from '../lesson/Late'
import type { SheetActions } from './actions/actions'
import { Panel } from './Panel'
import { useSide } from './score/useSide'
import { SIDE_WIDTHS, useSheetView } from './score/view'
import styles from './sheet.module.css'

/** Beside the score: what the viewer sees, and what is set for what is selected. Its width can be dragged. */
export function Side({ actions }: { actions: SheetActions }) {
  const { width, isEaselLarge } = useSide()
  // What lies over a picture is placed on it: small it could not be.
  const isPlacing = useLessonState(({ picked }) => picked?.kind === 'layer')
  return (
    <>
      <SideEdge width={width} />
      <aside className={styles.side} style={{ width }} aria-label={say('sheet.whatTheViewerSees')}>
        <Easel isLarge={isEaselLarge || isPlacing} onResize={actions.largerPicture} />
        <Late>
          <Panel actions={actions} />
        </Late>
      </aside>
    </>
  )
}

/** One push of an arrow key, in pixels. */
const PUSH = 24

function SideEdge({ width }: { width: number }) {
  const { setSideWidth } = useSheetView.getState()
  const [grip, setGrip] = useState<{ x: number; width: number } | null>(null)
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: PUSH, ArrowRight: -PUSH }[event.key]
    if (!by) return
    event.preventDefault()
    setSideWidth(width + by)
  }
  return (
    <div
      className={styles.sideEdge}
      role="separator"
      aria-orientation="vertical"
      aria-label={say('sheet.widthOfTheSide')}
      aria-valuenow={width}
      aria-valuemin={SIDE_WIDTHS.least}
      aria-valuemax={SIDE_WIDTHS.most}
      tabIndex={0}
      title={say('sheet.dragToMakeThe')}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        setGrip({ x: event.clientX, width })
      }}
      onPointerMove={(event) => grip && setSideWidth(grip.width + grip.x - event.clientX)}
      onPointerUp={() => setGrip(null)}
      onPointerCancel={() => setGrip(null)}
    />
  )
}
