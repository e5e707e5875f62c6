'use client'

import { MinusOutlined, PlusOutlined } from '@/ui/parts/icons'
import { Button } from 'antd'
import { useEffect, useMemo, useRef } from 'react'
import type { StepSpan } from '@/core/lesson/timeline'
import { readScript, shownText } from '@/core/narration/words/script'
import { say } from '@/messages/say'
import { useLesson, useLessonState, useTimeline } from '../lesson/context'
import { NumberField } from '../parts/NumberField'
import { passagesOf, usePhrases } from '../words/usePhrases'
import type { Booth } from './useBooth'
import { PACES, SIZES, useReadingView } from './useReadingView'
import styles from './booth.module.css'

interface ScriptPageProps {
  span: StepSpan
  booth: Booth
  from: number
  onFrom: (phrase: number) => void
}

/**
 * The script, large, between what comes before and after it. While one records, the words that have been said by now at the
 * pace that is set are grey, and the page rolls with them. A click on a phrase that has a voice already sets the place to
 * record from.
 */
export function ScriptPage({ span, booth, from, onFrom }: ScriptPageProps) {
  const { step } = span
  const lesson = useLesson()
  const timeline = useTimeline()
  const { size, pace } = useReadingView()
  const analyses = useLessonState((state) => state.analyses)
  const passages = useMemo(() => passagesOf(timeline, step.id), [timeline, step.id])
  const phrases = usePhrases(passages, step, analyses)
  const words = useMemo(() => readScript(step.script).words, [step.script])
  const [before, next] = [lesson.steps[span.index - 1], lesson.steps[span.index + 1]]
  const start = phrases[from]?.scriptFrom ?? 0
  const isRecording = booth.phase === 'recording'
  const isRolling = isRecording && booth.mode === 'step'
  const said = isRolling ? Math.floor((booth.time * pace) / 60) : 0
  const first = Math.max(0, words.findIndex((word) => word.from >= start)) // prettier-ignore
  const now = useRolling(isRolling ? first + said : null)
  return (
    <div className={styles.script} lang={lesson.language}>
      <ReadingControls
        place={say('booth.stepOf', { number: span.index + 1, count: lesson.steps.length })}
        count={booth.phase === 'counting' ? booth.count : null}
      />
      <div style={{ fontSize: size }}>
        {before?.script && !isRecording && (
          <p className={styles.neighbour}>
            <b>{say('booth.before', { title: before.title })}</b>
            {lastSentence(shownText(before.script))}
          </p>
        )}
        {words.length === 0 && (
          <p className={styles.noScript}>
            {step.title}. <small>{say('booth.thereIsNoScript')}</small>
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
                  title={say('booth.recordFromHere')}
                  className={i < from ? styles.said : undefined}
                  onClick={() => onFrom(i)}
                  onKeyDown={(event) => event.key === 'Enter' && onFrom(i)}
                >
                  {shownText(step.script.slice(phrase.scriptFrom, phrase.scriptTo))}{' '}
                </span>
              ))
            : words.map((word, i) => (
                <span
                  key={word.from}
                  ref={i === first + said ? now : undefined}
                  className={i < first + said ? styles.said : undefined}
                >
                  {word.text}{' '}
                </span>
              ))}
        </p>
        {next && (
          <p className={styles.neighbour}>
            <b>{say('booth.next', { title: next.title })}</b>
            {firstSentence(shownText(next.script))}
          </p>
        )}
      </div>
    </div>
  )
}

/** Keeps the word that is to be said now in the middle of the page. */
function useRolling(word: number | null) {
  const now = useRef<HTMLSpanElement>(null)
  useEffect(() => {
    if (word !== null) now.current?.scrollIntoView({ block: 'center' })
  }, [word])
  return now
}

function ReadingControls({ place, count }: { place: string; count: number | null }) {
  const { size, pace, setSize, setPace } = useReadingView()
  return (
    <div className={styles.reading}>
      <span>{place}</span>
      {count !== null && <b className={styles.count}>{count}</b>}
      <span className={styles.gap} />
      <span>{say('booth.size')}</span>
      <Button
        size="small"
        icon={<MinusOutlined />}
        aria-label={say('booth.smallerScript')}
        disabled={size <= SIZES.least}
        onClick={() => setSize(size - 4)}
      />
      <Button
        size="small"
        icon={<PlusOutlined />}
        aria-label={say('booth.largerScript')}
        disabled={size >= SIZES.most}
        onClick={() => setSize(size + 4)}
      />
      <span className={styles.pace}>
        {say.rich('booth.rollsAt', {
          pace: () => (
            <NumberField
              size="small"
              aria-label={say('booth.wordsAMinuteAt')}
              min={PACES.least}
              max={PACES.most}
              step={10}
              value={pace}
              style={{ width: 84 }}
              onChange={(value) => value !== null && setPace(value)}
            />
          ),
        })}
      </span>
    </div>
  )
}

const SENTENCE = /[^.!?…]+[.!?…]*[”’"')\]]*\s*/gu
const firstSentence = (text: string): string => text.match(SENTENCE)?.[0]?.trim() ?? text
const lastSentence = (text: string): string => text.match(SENTENCE)?.at(-1)?.trim() ?? text
