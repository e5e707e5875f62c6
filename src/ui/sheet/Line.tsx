'use client'

import { memo, useEffect, useRef, useState } from 'react'
import type { StepWord } from '@/core/narration/stepWords'
import type { Seconds } from '@/core/units'
import { useDesk } from '../lesson/context'
import { drawLine } from './drawLine'
import { Tabs } from './Tabs'
import { HiddenParts } from './HiddenParts'
import type { RowProps } from './Row'
import type { WordRun } from './rowWords'
import { WaveHandles } from './WaveHandles'
import { BED_HEIGHT, WORDS_HEIGHT } from './view'
import styles from './row.module.css'

export interface LineProps extends RowProps {
  line: number
  lines: number
  words: readonly StepWord[]
  runs: WordRun[]
  caretAt: Seconds | null
}

/** One line of a row: words at their times, the voice's wave, the bed, and what can be taken hold of. */
export const Line = memo(function Line(props: LineProps) {
  const { span, passages, analyses, mix, hasBed, bedStarts, geometry, line, lines, words, runs, caretAt } = props
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
          <Word key={run.word} run={run} word={words[run.word]!} {...props} />
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
      <Tabs {...props} from={from} to={to} x={x} />
      <HiddenParts passages={passages} from={from} to={to} x={x} />
      {props.caret && <WaveHandles {...props} from={from} to={to} />}
      {caretHere && (
        <span className={styles.caret} style={{ left: x(caretAt), height: WORDS_HEIGHT + geometry.waveHeight }} />
      )}
    </div>
  )
})

function Word({ run, word, span, caret, onCaret }: LineProps & { run: WordRun; word: StepWord }) {
  const { store } = useDesk()
  const [corrects, setCorrects] = useState(false)
  const isChosen =
    caret?.anchor !== undefined &&
    run.word >= Math.min(caret.anchor, caret.word) &&
    run.word < Math.max(caret.anchor, caret.word)
  const isGuess = word.confidence === null || word.confidence < UNSURE
  const correct = (text: string) => {
    setCorrects(false)
    const { script, id } = span.step
    const { from, to } = word.script
    if (text.trim() && text !== script.slice(from, to))
      store.getState().edit({ name: 'setScript', step: id, script: script.slice(0, from) + text + script.slice(to) })
  }
  if (corrects) {
    return (
      <input
        autoFocus
        className={styles.correction}
        style={{ left: run.left, width: `${word.text.length + 4}ch` }}
        aria-label={`Correct “${word.text}”`}
        defaultValue={span.step.script.slice(word.script.from, word.script.to)}
        onBlur={(event) => correct(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') correct(event.currentTarget.value)
          if (event.key === 'Escape') setCorrects(false)
        }}
      />
    )
  }
  return (
    <button
      tabIndex={-1}
      className={run.text ? styles.phrase : styles.unnamed}
      style={run.text ? { left: run.left, maxWidth: run.room } : { left: run.left, width: run.room }}
      title={run.text ? 'Double-click to correct' : 'A phrase without a script'}
      data-word={run.word}
      data-from={word.start}
      data-to={word.end}
      data-guess={run.text && isGuess ? 'yes' : undefined}
      aria-pressed={isChosen || undefined}
      onClick={(event) => {
        // The keys belong to the sheet: Enter after a click starts the next step here.
        event.currentTarget.blur()
        onCaret(span.step.id, run.word, event.shiftKey)
      }}
      onDoubleClick={() => run.text && setCorrects(true)}
    >
      {run.text}
    </button>
  )
}

/** Words less certain than this are shown as guesses. */
const UNSURE = 0.25
