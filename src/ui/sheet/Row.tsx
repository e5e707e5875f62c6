'use client'

import { useDraggable, useDroppable } from '@dnd-kit/core'
import { memo, useEffect, useMemo, useRef } from 'react'
import type { PassageSpan, StepSpan } from '@/core/lesson/layout'
import type { Analysis } from '@/core/measure/analysis'
import type { MixPicture } from '@/workers/protocol'
import { clock } from '../format'
import { PictureThumb } from '../parts/PictureThumb'
import { drawLine } from './drawLine'
import { LengthButton } from './LengthButton'
import { wordRuns, type WordRun } from './rowWords'
import { usePhrases } from './usePhrases'
import { BED_HEIGHT, linesOf, ROW_TOP, WORDS_HEIGHT, type SheetGeometry } from './view'
import styles from './row.module.css'

export interface RowProps {
  span: StepSpan
  passages: readonly PassageSpan[]
  analyses: ReadonlyMap<string, Analysis>
  mix: MixPicture | null
  /** Title of the music that starts here. */
  bedStarts: string | null
  hasBed: boolean
  /** What there is to say of its voice, such as that a stand-in reads it. */
  voice: string | null
  geometry: SheetGeometry
  selected: boolean
  /** Number of the phrase the caret stands before; null where it stands elsewhere. */
  caret: number | null
  onSelect(step: string, how: { add: boolean; range: boolean }): void
  onCaret(step: string, phrase: number): void
}

/** One step: what is said over one picture, as wrapped lines of a score. */
export const Row = memo(function Row(props: RowProps) {
  const { span, passages, analyses, geometry, selected, caret } = props
  const { step, index, start, end } = span
  const phrases = usePhrases(passages, step, analyses)
  const lines = linesOf(end - start, geometry)
  const runs = useMemo(
    () => wordRuns(phrases, step.script, start, geometry, lines),
    [phrases, step.script, start, geometry, lines],
  )
  const { setNodeRef: dragRef, listeners } = useDraggable({ id: step.id, data: { index } })
  const { setNodeRef: dropRef, isOver, active } = useDroppable({ id: step.id })
  const comesFromAbove = ((active?.data.current as { index: number } | undefined)?.index ?? index) < index
  const caretAt = caret === null ? null : caret === 0 ? start : phrases[caret] ? phrases[caret].start - 0.08 : start
  return (
    <div
      ref={dropRef}
      className={styles.row}
      role="row"
      aria-selected={selected}
      aria-label={`Step ${index + 1}, ${step.title}, ${clock(end - start)}`}
      data-step={step.id}
      data-over={isOver ? (comesFromAbove ? 'below' : 'above') : undefined}
    >
      <div
        ref={dragRef}
        {...listeners}
        className={styles.margin}
        onClick={(event) => props.onSelect(step.id, { add: event.ctrlKey || event.metaKey, range: event.shiftKey })}
        title="Click to select, drag to move"
      >
        <span className={styles.number}>{index + 1}</span>
        <span>
          <PictureThumb picture={step.picture} className={styles.thumb} />
          <span className={styles.title}>{step.title}</span>
          {props.voice && <small className={styles.voiceMark}>{props.voice}</small>}
        </span>
      </div>
      <div className={styles.score} style={{ paddingTop: ROW_TOP }}>
        {runs.map((lineRuns, line) => (
          <Line key={line} {...props} line={line} lines={lines} runs={lineRuns} caretAt={caretAt} />
        ))}
      </div>
      <div className={styles.length}>
        <LengthButton span={span} />
      </div>
    </div>
  )
})

interface LineProps extends RowProps {
  line: number
  lines: number
  runs: WordRun[]
  caretAt: number | null
}

function Line({
  span,
  passages,
  analyses,
  mix,
  hasBed,
  bedStarts,
  geometry,
  line,
  lines,
  runs,
  caretAt,
  onCaret,
}: LineProps) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const from = span.start + line * geometry.lineSeconds
  const to = Math.min(span.end, from + geometry.lineSeconds)
  const isLast = line === lines - 1
  useEffect(() => {
    const content = { span, passages, mix, hasBed, analysisOf: (media: string) => analyses.get(media) }
    drawLine(canvas.current!, from, to, content, geometry)
  }, [span, passages, analyses, mix, hasBed, from, to, geometry])
  const x = (time: number) => (time - from) * geometry.pixelsPerSecond
  const caretHere = caretAt !== null && caretAt >= from - 1e-6 && (caretAt < to || isLast)
  return (
    <div className={styles.line} style={{ height: geometry.lineHeight }} data-line={line}>
      <div className={styles.words} style={{ height: WORDS_HEIGHT }}>
        {runs.map((run) => (
          <button
            key={run.phrase}
            tabIndex={-1}
            className={run.text ? styles.phrase : styles.unnamed}
            style={run.text ? { left: run.left, maxWidth: run.room } : { left: run.left, width: run.room }}
            title={run.text || 'A phrase without a script'}
            onClick={() => onCaret(span.step.id, run.phrase)}
          >
            {run.text}
          </button>
        ))}
      </div>
      <canvas ref={canvas} className={styles.canvas} aria-hidden="true" />
      {line === 0 && bedStarts && (
        <span className={styles.cue} style={{ bottom: BED_HEIGHT - 4 }}>
          ♪ {bedStarts} starts
        </span>
      )}
      {isLast && span.overrun > 0.05 && (
        <span
          className={styles.overrun}
          style={{ left: Math.max(0, x(to) - 190), top: WORDS_HEIGHT + geometry.waveHeight - 6 }}
        >
          Words run {span.overrun.toFixed(1)} s past the picture
        </span>
      )}
      {isLast && (
        <span
          className={styles.end}
          style={{ left: x(to), top: WORDS_HEIGHT - 8, height: geometry.waveHeight + BED_HEIGHT }}
        />
      )}
      {caretHere && (
        <span className={styles.caret} style={{ left: x(caretAt), height: WORDS_HEIGHT + geometry.waveHeight }} />
      )}
    </div>
  )
}
