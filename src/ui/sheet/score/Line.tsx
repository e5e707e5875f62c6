'use client'

import { memo } from 'react'
import { decimal } from '@/ui/format'
import { say } from '@/messages/say'
import { Tabs } from './Tabs'
import { BreakHandle } from './BreakHandle'
import { HiddenParts } from './HiddenParts'
import type { LineProps } from './rowProps'
import { useDrawnLine } from './useDrawnLine'
import { Words } from './Words'
import { WaveHandles } from './WaveHandles'
import { BED_HEIGHT, WORDS_HEIGHT } from './view'
import styles from './row.module.css'

/** Over the music, from its upper edge: a sound's tab reaches so far down. */
const BELOW_SOUNDS = 11 // px

/** One line of a row: words at their times, the voice's wave, the bed, and what can be taken hold of. */
export const Line = memo(function Line(props: LineProps) {
  const { span, passages, hasBed, geometry, line, lines, words, runs, caretAt } = props
  const from = span.start + line * geometry.lineSeconds
  const to = Math.min(span.end, from + geometry.lineSeconds)
  const isLast = line === lines - 1
  const canvas = useDrawnLine({ span, passages, hasBed, from, to, geometry })
  const x = (time: number) => (time - from) * geometry.pixelsPerSecond
  const caretHere = caretAt !== null && caretAt >= from - 1e-6 && (caretAt < to || isLast)
  return (
    <div className={styles.line} style={{ height: geometry.lineHeight }} data-line={line}>
      <Words step={span.step} words={words} runs={runs} chosen={props.chosen} onCaret={props.onCaret} />
      <canvas ref={canvas} className={styles.canvas} aria-hidden="true" />
      {isLast && span.overrun > 0.05 && (
        <span
          className={styles.overrun}
          style={{ left: Math.max(0, x(to) - 190), top: WORDS_HEIGHT + geometry.waveHeight + BELOW_SOUNDS }}
        >
          {say('score.wordsRunSPast', { overrun: decimal(span.overrun, 1) })}
        </span>
      )}
      {isLast && (
        <BreakHandle
          step={span.step.id}
          left={x(to)}
          top={WORDS_HEIGHT - 8}
          height={geometry.waveHeight + BED_HEIGHT}
        />
      )}
      <Tabs {...props} from={from} to={to} x={x} />
      <HiddenParts passages={passages} from={from} to={to} x={x} />
      {props.caret && <WaveHandles {...props} from={from} to={to} />}
      {caretHere && (
        <span className={styles.caret} style={{ left: x(caretAt), height: WORDS_HEIGHT + geometry.waveHeight }} />
      )}
    </div>
  )
})
