'use client'

import { Input } from 'antd'
import { useState } from 'react'

const MOST_LINES = 6

/** The text of a card: the first line is its title. */
export function CardLines({ lines, onChange }: { lines: readonly string[]; onChange: (lines: string[]) => void }) {
  const [draft, setDraft] = useState<string | null>(null)
  const commit = () => {
    const next = (draft ?? '')
      .split('\n')
      .map((line) => line.trim().slice(0, 200))
      .filter(Boolean)
      .slice(0, MOST_LINES)
    if (draft !== null && next.length > 0 && next.join('\n') !== lines.join('\n')) onChange(next)
    setDraft(null)
  }
  return (
    <Input.TextArea
      aria-label="Text of the card: a title, then up to five lines"
      value={draft ?? lines.join('\n')}
      autoSize={{ minRows: 2, maxRows: MOST_LINES }}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={commit}
    />
  )
}
