'use client'

import { useMemo } from 'react'
import type { StepSpan } from '@/core/lesson/timeline'
import { readScript, shownText } from '@/core/narration/words/script'
import { useLesson, useLessonState, useTimeline } from '../lesson/context'
import { passagesOf, usePhrases } from '../words/usePhrases'
import type { Booth } from './useBooth'
import styles from './booth.module.css'

/** Words a minute of somebody who reads to listeners. */
const USUAL_PACE = 140

/**
 * The script, large. While one records, the words that have been said by now at a usual pace are grey. A click on a
 * phrase that has a voice already sets the place to record from.
 */
export function ScriptPage({
  span,
  booth,
  from,
  onFrom,
}: {
  span: StepSpan
  booth: Booth
  from: number
  onFrom: (phrase: number) => void
}) {
  const { step } = span
  const lesson = useLesson()
  const timeline = useTimeline()
  const analyses = useLessonState((state) => state.analyses)
  const passages = useMemo(() => passagesOf(timeline, step.id), [timeline, step.id])
  const phrases = usePhrases(passages, step, analyses)
  const words = useMemo(() => readScript(step.script).words, [step.script])
  const next = lesson.steps[span.index + 1]
  const start = phrases[from]?.scriptFrom ?? 0
  const isRecording = booth.phase === 'recording'
  const said = isRecording && booth.mode === 'step' ? Math.floor((booth.time * USUAL_PACE) / 60) : 0
  const first = words.findIndex((word) => word.from >= start)
  return (
    <div className={styles.script}>
      <p className={styles.place}>
        Step {span.index + 1}
        {next && ` · next: ${next.title}`}
        {booth.phase === 'counting' && <b className={styles.count}> {booth.count}</b>}
      </p>
      {words.length === 0 && (
        <p className={styles.noScript}>
          {step.title}. <small>There is no script for this step: speak freely, or write one on the sheet.</small>
        </p>
      )}
      <p className={styles.words} data-testid="script">
        {phrases.length > 1 && !isRecording
          ? phrases.map((phrase, i) => (
              <span
                key={i}
                role="button"
                tabIndex={0}
                aria-pressed={i === from}
                title="Record from here"
                className={i < from ? styles.said : undefined}
                onClick={() => onFrom(i)}
                onKeyDown={(event) => event.key === 'Enter' && onFrom(i)}
              >
                {shownText(step.script.slice(phrase.scriptFrom, phrase.scriptTo))}{' '}
              </span>
            ))
          : words.map((word, i) => (
              <span key={word.from} className={i < Math.max(0, first) + said ? styles.said : undefined}>
                {word.text}{' '}
              </span>
            ))}
      </p>
    </div>
  )
}
