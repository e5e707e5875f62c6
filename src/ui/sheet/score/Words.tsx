'use client'

import { memo, type MouseEvent } from 'react'
import type { Step } from '@/core/lesson/document'
import type { StepWord } from '@/core/narration/words/stepWords'
import type { WordRange } from '@/core/narration/words/wordRange'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from '../../lesson/context'
import type { RowProps } from './rowProps'
import type { WordRun } from './rowWords'
import { useSheetView, WORDS_HEIGHT } from './view'
import styles from './row.module.css'

interface WordsProps {
  step: Step
  words: readonly StepWord[]
  runs: readonly WordRun[]
  chosen: WordRange | null
  onCaret: RowProps['onCaret']
}

/** The words of one line; drawn anew only when they have changed, not with every change of the mix. */
export const Words = memo(function Words({ step, words, runs, chosen, onCaret }: WordsProps) {
  const corrected = useSheetView(({ correcting }) => (correcting?.step === step.id ? correcting.word : null))
  const { correct } = useSheetView.getState()
  const language = useLessonState(({ history }) => history.lesson.language)
  // One listener for all: a long lesson shows hundreds of words.
  const onClick = (event: MouseEvent) => {
    const button = wordButton(event)
    if (!button) return
    // The keys belong to the sheet: Enter after a click starts the next step here.
    button.closest<HTMLElement>('[role=grid]')?.focus({ preventScroll: true })
    onCaret(step.id, Number(button.dataset.word), event.shiftKey)
  }
  const onDoubleClick = (event: MouseEvent) => {
    const index = Number(wordButton(event)?.dataset.word ?? NaN)
    if (words[index]?.text) correct({ step: step.id, word: index })
  }
  return (
    <div
      className={styles.words}
      style={{ height: WORDS_HEIGHT }}
      onClick={onClick}
      onDoubleClick={onDoubleClick}
      role="presentation"
      lang={language}
    >
      {runs.map((run) =>
        run.word === corrected ? (
          <Correction key={run.word} step={step} word={words[run.word]!} left={run.left} onDone={() => correct(null)} />
        ) : (
          wordElement(run, words[run.word]!, chosen)
        ),
      )}
    </div>
  )
})

const wordButton = (event: MouseEvent) => (event.target as Element).closest<HTMLElement>('[data-word]')

/** Not a component of its own: hundreds of them cost more than they do. */
function wordElement(run: WordRun, word: StepWord, chosen: WordRange | null) {
  const isCut = run.size > run.room
  const isGuess = word.confidence === null || word.confidence < UNSURE
  return (
    <button
      key={run.word}
      tabIndex={-1}
      className={run.text ? styles.phrase : styles.unnamed}
      style={run.text && !isCut ? { left: run.left } : { left: run.left, width: run.room }}
      data-cut={isCut || undefined}
      title={run.text ? say('score.doubleClickOrF2') : say('score.aPhraseWithoutA')}
      data-word={run.word}
      data-from={word.start}
      data-to={word.end}
      data-guess={run.text && isGuess ? 'yes' : undefined}
      aria-pressed={(chosen && run.word >= chosen.from && run.word < chosen.to) || undefined}
    >
      {run.text}
    </button>
  )
}

interface CorrectionProps {
  step: Step
  word: StepWord
  left: number
  onDone: () => void
}

function Correction({ step, word, left, onDone }: CorrectionProps) {
  const { store } = useDesk()
  const { from, to } = word.script
  const written = step.script.slice(from, to)
  const correct = (text: string) => {
    onDone()
    const script = step.script.slice(0, from) + text + step.script.slice(to)
    if (text.trim() && text !== written) store.getState().edit({ name: 'setScript', step: step.id, script })
  }
  return (
    <input
      autoFocus
      className={styles.correction}
      style={{ left, width: `${word.text.length + 4}ch` }}
      aria-label={say('score.correct', { text: word.text })}
      defaultValue={written}
      onBlur={(event) => correct(event.target.value)}
      onKeyDown={(event) => {
        // Enter that ends an input method's word does not end the correction.
        if (event.nativeEvent.isComposing) return
        if (event.key === 'Enter') correct(event.currentTarget.value)
        if (event.key === 'Escape') onDone()
      }}
    />
  )
}

/** Words less certain than this are shown as guesses. */
const UNSURE = 0.25
