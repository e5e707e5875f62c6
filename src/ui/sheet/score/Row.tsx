'use client'

import { useDraggable, useDroppable } from '@dnd-kit/core'
import { memo, useMemo } from 'react'
import type { StepWord } from '@/core/narration/words/stepWords'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { clock } from '../../format'
import { useLessonState } from '../../lesson/context'
import { PictureThumb } from '../../parts/PictureThumb'
import { LengthButton } from './LengthButton'
import { Line } from './Line'
import { wordRuns } from './rowWords'
import type { RowProps } from './rowProps'
import { useStepWords } from '../../words/useStepWords'
import { linesOf, ROW_TOP } from './view'
import styles from './row.module.css'

/** One step: what is said over one picture, as wrapped lines of a score. */
export const Row = memo(function Row({ index, ...props }: RowProps) {
  const { span, passages, geometry, measure, selected, caret } = props
  const { step, start, end } = span
  const shape = useLessonState(({ history }) => history.lesson.frame.shape)
  const words = useStepWords(passages, step)
  const lines = linesOf(end - start, geometry)
  const runs = useMemo(() => wordRuns(words, start, geometry, lines, measure), [words, start, geometry, lines, measure])
  const { setNodeRef: dragRef, listeners } = useDraggable({ id: step.id, data: { index } })
  const { setNodeRef: dropRef, isOver, active } = useDroppable({ id: step.id })
  const comesFromAbove = ((active?.data.current as { index: number } | undefined)?.index ?? index) < index
  const caretAt = caret && placeOfCaret(words, caret.word, start)
  return (
    <div
      ref={dropRef}
      className={styles.row}
      role="row"
      id={rowId(step.id)}
      aria-rowindex={index + 1}
      aria-selected={selected}
      aria-label={say('score.step', { number: index + 1, title: step.title, end: clock(end - start) })}
      data-step={step.id}
      data-over={isOver ? (comesFromAbove ? 'below' : 'above') : undefined}
    >
      <div
        ref={dragRef}
        {...listeners}
        className={styles.margin}
        data-margin
        role="rowheader"
        onClick={(event) => props.onSelect(step.id, { add: event.ctrlKey || event.metaKey, range: event.shiftKey })}
        title={say('score.clickToSelectDrag')}
      >
        <span className={styles.number}>{index + 1}</span>
        <span>
          <PictureThumb picture={step.picture} shape={shape} className={styles.thumb} />
          <span className={styles.title}>{step.title}</span>
          {props.voice && <small className={styles.voiceMark}>{props.voice}</small>}
        </span>
      </div>
      <div className={styles.score} style={{ paddingTop: ROW_TOP }} role="gridcell">
        {runs.map((lineRuns, line) => (
          <Line key={line} {...props} line={line} lines={lines} words={words} runs={lineRuns} caretAt={caretAt} />
        ))}
      </div>
      <div className={styles.length} data-length role="gridcell">
        <LengthButton span={span} />
      </div>
    </div>
  )
})

export const rowId = (step: string): string => `step-${step}`

/** The caret stands a little before its word. */
function placeOfCaret(words: readonly StepWord[], index: number, start: Seconds): Seconds {
  if (index === 0) return start
  const [word, last] = [words[index], words.at(-1)]
  return word ? Math.max(start, word.start - CARET_GAP) : (last?.end ?? start)
}

const CARET_GAP: Seconds = 0.03
