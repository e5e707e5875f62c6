'use client'

import { CloseOutlined } from '@/ui/parts/icons'
import { Button, Input } from 'antd'
import { useState } from 'react'
import { findWords, type FoundWords } from '@/core/narration/words/findWords'
import { say } from '@/messages/say'
import { useDesk, useLesson } from '../lesson/context'
import { caretTime } from '../words/caret'
import styles from './sheet.module.css'

/** Finds words in the lesson, step after step; a number goes to that step. */
export function FindBar({ onClose }: { onClose: () => void }) {
  const { store, player } = useDesk()
  const { steps } = useLesson()
  const [phrase, setPhrase] = useState('')
  const [at, setAt] = useState(-1)
  const number = /^\d+$/.test(phrase.trim()) ? Number(phrase) : null
  const found = number === null ? findWords(steps, phrase) : []
  const goTo = ({ step, word }: FoundWords) => {
    const caret = { step, word: Math.max(0, word) }
    store.getState().select([step], caret)
    player.seek(caretTime(store.getState(), caret))
  }
  const next = (by: 1 | -1) => {
    const step = number === null ? undefined : steps[number - 1]
    if (step) return goTo({ step: step.id, word: 0 })
    if (found.length === 0) return
    const index = at < 0 ? (by > 0 ? 0 : found.length - 1) : (at + by + found.length) % found.length
    setAt(index)
    goTo(found[index]!)
  }
  return (
    <div className={styles.find} role="search">
      <Input
        autoFocus
        size="small"
        aria-label={say('sheet.findWordsOrA')}
        placeholder={say('sheet.wordsOrASteps')}
        value={phrase}
        onChange={(event) => {
          setPhrase(event.target.value)
          setAt(-1)
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && !event.nativeEvent.isComposing) next(event.shiftKey ? -1 : 1)
          if (event.key === 'Escape') onClose()
        }}
      />
      <span data-testid="found">{sayFound(phrase, number, steps.length, found.length, at)}</span>
      <Button size="small" onClick={() => next(-1)} disabled={found.length === 0}>
        {say('sheet.before')}
      </Button>
      <Button size="small" onClick={() => next(1)} disabled={found.length === 0 && number === null}>
        {say('sheet.next')}
      </Button>
      <Button
        size="small"
        type="text"
        icon={<CloseOutlined />}
        aria-label={say('sheet.closeTheSearch')}
        onClick={onClose}
      />
    </div>
  )
}

function sayFound(phrase: string, number: number | null, steps: number, found: number, at: number): string {
  if (phrase.trim() === '') return ''
  if (number !== null)
    return number >= 1 && number <= steps ? say('sheet.enterGoesToThis') : say('sheet.thereAreSteps', { steps })
  if (found === 0) return say('sheet.notInThisLesson')
  return at < 0 ? say('sheet.found', { found }) : say('sheet.foundAt', { at: at + 1, found })
}
