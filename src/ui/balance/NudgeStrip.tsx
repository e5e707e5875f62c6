'use client'

import { Button, Select } from 'antd'
import { nanoid } from 'nanoid'
import { useRef, useState, type PointerEvent } from 'react'
import type { Nudge } from '@/core/lesson/document'
import { nudgeAt } from '@/core/bed/nudges'
import { anchorAt, plateau } from '@/core/bed/plateau'
import type { NudgePoint } from '@/core/lesson/timeline'
import { clamp, type Decibels, type Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { signed } from '../format'
import { useDesk, useTimeline } from '../lesson/context'
import { useMeasuredWidth } from '../parts/useMeasuredWidth'
import { CHART_SIDES, type Shown } from './LevelChart'
import { NumberField } from '../parts/NumberField'
import styles from './balance.module.css'

const HEIGHT = 52
const RANGE = 18 // dB up and down
/** Below this a point is drawn at the bottom edge: the music is mute there. */
const MUTE: Decibels = -60

/** What arrow keys do to a point: seconds later, decibels louder. */
const PUSHES: Record<string, [Seconds, Decibels]> = {
  ArrowLeft: [-0.1, 0],
  ArrowRight: [0.1, 0],
  ArrowUp: [0, 0.5],
  ArrowDown: [0, -0.5],
}

/** The hand-made line on top of the ride: points put in, dragged, typed, taken out, several at once. */
export function NudgeStrip({ shown }: { shown: Shown }) {
  const { store, player } = useDesk()
  const timeline = useTimeline()
  const [width, measured] = useMeasuredWidth(900)
  const [chosen, setChosen] = useState<readonly string[]>([])
  const [dragged, setDragged] = useState<{ by: Seconds; gain: Decibels } | null>(null)
  const grip = useRef<{ x: number; y: number } | null>(null)
  /** Whether the press that a click ends began on a point: the line has taken the pointer by then. */
  const onPoint = useRef(false)
  const points = timeline.nudges
  const scale = (width - CHART_SIDES.left - CHART_SIDES.right) / Math.max(0.1, shown.to - shown.from)
  const x = (time: Seconds) => CHART_SIDES.left + (time - shown.from) * scale
  const y = (gain: Decibels) => HEIGHT / 2 - (clamp(gain, -RANGE, RANGE) / RANGE) * (HEIGHT / 2 - 6)
  const { edit } = store.getState()
  const own = points.filter(({ nudge }) => chosen.includes(nudge.id))

  const placed = (time: Seconds, gain: Decibels, id = nanoid(10), shape: Nudge['shape'] = 'straight'): Nudge => ({
    id,
    anchor: anchorAt(timeline, time),
    gain,
    shape,
  })
  const put = (event: React.MouseEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect()
    const time = shown.from + (event.clientX - box.left - CHART_SIDES.left) / scale
    if (timeline.steps.length === 0 || time < 0 || time > timeline.length) return
    const nudge = placed(time, nudgeAt(points, time))
    if (edit({ name: 'setNudges', nudges: [nudge] })) setChosen([nudge.id])
  }
  const move = (event: PointerEvent) => {
    if (!grip.current) return
    const by = (event.clientX - grip.current.x) / scale
    const gain = (-(event.clientY - grip.current.y) / (HEIGHT / 2 - 6)) * RANGE
    setDragged({ by, gain: Math.round(gain * 2) / 2 })
  }
  const drop = () => {
    if (dragged && (Math.abs(dragged.by) > 0.02 || dragged.gain !== 0))
      edit({
        name: 'setNudges',
        nudges: own.map(({ nudge, at }) =>
          placed(at + dragged.by, clamp(nudge.gain + dragged.gain, MUTE, 24), nudge.id, nudge.shape),
        ),
      })
    grip.current = null
    setDragged(null)
  }
  /** A stretch around the playhead, as long as the part that is shown allows, at another level. */
  const stretch = (gain: Decibels) => {
    const middle = clamp(player.position(), shown.from, shown.to)
    const half = Math.min(4, (shown.to - shown.from) / 6)
    const { edits, level } = plateau(timeline, { from: middle - half, to: middle + half }, gain, () => nanoid(10))
    if (edit(...edits)) setChosen(level)
  }
  const remove = (ids: readonly string[]) => {
    if (ids.length > 0) edit({ name: 'removeNudges', nudges: [...ids] })
    setChosen([])
  }
  const setAll = (part: Partial<Nudge>) =>
    edit({ name: 'setNudges', nudges: own.map(({ nudge }) => ({ ...nudge, ...part })) })
  const shownPoints = points.map((point) => moved(point, chosen, dragged))
  return (
    <div className={styles.nudges} ref={measured}>
      <div className={styles.nudgeTools}>
        <b>{say('balance.byHand')}</b>
        {own.length > 0 ? (
          <>
            <NumberField
              size="small"
              aria-label={say('balance.gainOfTheChosen')}
              min={MUTE}
              max={24}
              step={0.5}
              value={own[0]!.nudge.gain}
              suffix="dB"
              style={{ width: 96 }}
              onChange={(gain) => gain !== null && setAll({ gain })}
            />
            <Select
              size="small"
              aria-label={say('balance.shapeOfTheLine')}
              value={own[0]!.nudge.shape}
              options={[
                { value: 'straight', label: say('balance.straightOn') },
                { value: 'smooth', label: say('balance.smoothOn') },
              ]}
              onChange={(shape) => setAll({ shape })}
            />
            <Button size="small" onClick={() => remove(chosen)}>
              {own.length === 1 ? say('balance.takeThePointOut') : say('balance.takePointsOut', { count: own.length })}
            </Button>
          </>
        ) : (
          <span className={styles.note}>{say('balance.doubleClickPutsA')}</span>
        )}
        <span className={styles.gap} />
        <Button size="small" onClick={() => stretch(-6)}>
          {say('balance.softerHere')}
        </Button>
        <Button size="small" onClick={() => stretch(4)}>
          {say('balance.louderHere')}
        </Button>
        <Button size="small" onClick={() => stretch(MUTE)}>
          {say('balance.muteHere')}
        </Button>
        <Button
          size="small"
          disabled={!points.some(({ at }) => at >= shown.from && at <= shown.to)}
          onClick={() =>
            remove(points.filter(({ at }) => at >= shown.from && at <= shown.to).map(({ nudge }) => nudge.id))
          }
          title={say('balance.takesOutAllPoints')}
        >
          {say('balance.backToComputed')}
        </Button>
      </div>
      <svg
        className={styles.strip}
        height={HEIGHT}
        width={width}
        onDoubleClick={put}
        onPointerMove={move}
        onPointerUp={drop}
        onPointerDownCapture={() => (onPoint.current = false)}
        onClick={() => !onPoint.current && setChosen([])}
        role="group"
        aria-label={say('balance.gainAddedByHand')}
      >
        <line x1={CHART_SIDES.left} x2={width - CHART_SIDES.right} y1={y(0)} y2={y(0)} className={styles.zero} />
        <text x={CHART_SIDES.left - 6} y={y(0) + 4} textAnchor="end">
          {say('balance.zeroDb')}
        </text>
        <polyline className={styles.gainLine} points={lineOf(shownPoints, shown, x, y)} />
        {shownPoints
          .filter(({ at }) => at >= shown.from && at <= shown.to)
          .map(({ nudge, at }) => (
            <g
              key={nudge.id}
              transform={`translate(${x(at)} ${y(nudge.gain)})`}
              className={styles.point}
              data-chosen={chosen.includes(nudge.id) ? 'yes' : undefined}
              tabIndex={0}
              role="button"
              aria-label={`${signed(nudge.gain)} dB`}
              onPointerDown={(event) => {
                event.currentTarget.ownerSVGElement!.setPointerCapture(event.pointerId)
                grip.current = { x: event.clientX, y: event.clientY }
                onPoint.current = true
                if (event.shiftKey) setChosen([...chosen, nudge.id])
                else if (!chosen.includes(nudge.id)) setChosen([nudge.id])
              }}
              onKeyDown={(event) => {
                if (event.key === 'Delete' || event.key === 'Backspace') remove([nudge.id])
                if (event.key === 'Enter') setChosen([nudge.id])
                const [by, gain] = PUSHES[event.key] ?? [0, 0]
                if (by === 0 && gain === 0) return
                event.preventDefault()
                const louder = clamp(nudge.gain + gain, MUTE, 24)
                edit({ name: 'setNudges', nudges: [placed(at + by, louder, nudge.id, nudge.shape)] })
              }}
            >
              {/* What is taken hold of is larger than what is seen. */}
              <circle r={12} className={styles.hold} />
              <circle r={chosen.includes(nudge.id) ? 7 : 5} />
            </g>
          ))}
      </svg>
    </div>
  )
}

function moved(
  { nudge, at }: NudgePoint,
  chosen: readonly string[],
  by: { by: Seconds; gain: Decibels } | null,
): NudgePoint {
  if (!by || !chosen.includes(nudge.id)) return { nudge, at }
  return { nudge: { ...nudge, gain: nudge.gain + by.gain }, at: at + by.by }
}

/** The line as it is added to the ride, at every third pixel. */
function lineOf(
  points: readonly NudgePoint[],
  { from, to }: Shown,
  x: (time: Seconds) => number,
  y: (gain: Decibels) => number,
): string {
  const steps = 320
  return Array.from({ length: steps + 1 }, (_, i) => {
    const time = from + ((to - from) * i) / steps
    return `${x(time).toFixed(1)},${y(nudgeAt(points, time)).toFixed(1)}`
  }).join(' ')
}
