'use client'

import { useEffect, useRef, useState } from 'react'
import { useDesk } from '../lesson/context'

const PAUSE = 300 // ms after the last key

/**
 * A text that is typed into the lesson. It counts as it is typed, a moment after the last key, and at once where anything is
 * left; all of it is one step of undo (`isFirst` where that begins).
 */
export function useTyped(value: string, onCommit: (text: string, isFirst: boolean) => void) {
  const { typing } = useDesk()
  /** What stands in the field: while it is typed, then until the lesson has it, then for as long as nobody else changes it. */
  const [draft, setDraft] = useState<{ text: string; is: 'typed' | 'given' | 'taken' } | null>(null)
  const [seen, setSeen] = useState(value)
  if (value !== seen) {
    setSeen(value)
    if (draft?.is === 'given') setDraft({ ...draft, is: 'taken' })
    if (draft?.is === 'taken') setDraft(null)
  }
  const field = useRef({ text: value, isFirst: true, timer: undefined as ReturnType<typeof setTimeout> | undefined })

  const commit = useRef(() => {})
  useEffect(() => {
    const { current } = field
    commit.current = () => {
      clearTimeout(current.timer)
      typing.end(current)
      setDraft((now) => now && { ...now, is: current.text === value ? 'taken' : 'given' })
      if (current.text === value) return
      onCommit(current.text, current.isFirst)
      current.isFirst = false
    }
  })
  // A field that goes away (another step is chosen) leaves nothing behind.
  useEffect(() => {
    const { current } = field
    return () => typing.commit(current)
  }, [typing])

  return {
    value: draft?.text ?? value,
    onChange(text: string) {
      const { current } = field
      clearTimeout(current.timer)
      current.text = text
      current.timer = setTimeout(() => typing.commit(current), PAUSE)
      setDraft({ text, is: 'typed' })
      typing.begin(current, () => commit.current())
    },
    onBlur() {
      typing.commit(field.current)
      field.current.isFirst = true
      setDraft(null)
    },
  }
}
