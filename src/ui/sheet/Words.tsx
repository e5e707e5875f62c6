'use client'

import { memo, useState } from 'react'
import type { Step } from '@/core/lesson/document'
import type { StepWord } from '@/core/narration/stepWords'
import type { WordRange } from '@/core/narration/wordRange'
import { useDesk } from '../lesson/context'
import type { RowProps } from './Row'
import type { WordRun } from './rowWords'
import { WORDS_HEIGHT } from './view'
import styles from './row.module.css'

interface WordsProps {
  step: Step
  words: readonly StepWord[]
  runs: readonly WordRun[]
  chosen: WordRange | null
  onCaret: RowProps['onCaret']
}

/** The words of one line; drawn anew only when they have changed, not with every change of the mix. */
export const Words = memo(function Words({ words, runs, ...shared }: WordsProps) {
  return (
    <div className={styles.words} style={{ height: WORDS_HEIGHT }}>
      {runs.map((run) => (
        <Word key={run.word} run={run} word={words[run.word]!} {...shared} />
      ))}
    </div>
  )
})

function Word({
  run,
  word,
  step,
  chosen,
  onCaret,
}: Omit<WordsProps, 'runs' | 'words'> & { run: WordRun; word: StepWord }) {
  const { store } = useDesk()
  const [corrects, setCorrects] = useState(false)
  const isChosen = chosen !== null && run.word >= chosen.from && run.word < chosen.to
  const isGuess = word.confidence === null || word.confidence < UNSURE
  const correct = (text: string) => {
    setCorrects(false)
    const { script, id } = step
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
        defaultValue={step.script.slice(word.script.from, word.script.to)}
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
        onCaret(step.id, run.word, event.shiftKey)
      }}
      onDoubleClick={() => run.text && setCorrects(true)}
    >
      {run.text}
    </button>
  )
}

/** Words less certain than this are shown as guesses. */
const UNSURE = 0.25
