'use client'

import { Input } from 'antd'
import { cutText } from '@/core/text'
import { LIMITS } from '@/core/lesson/limits'
import { say } from '@/messages/say'
import { useTyped } from '../../saving/useTyped'

const MOST_LINES = 6

interface CardLinesProps {
  lines: readonly string[]
  onChange: (lines: string[], isFirst: boolean) => void
}

/** The text of a card: the first line is its title. */
export function CardLines({ lines, onChange }: CardLinesProps) {
  const typed = useTyped(lines.join('\n'), (text, isFirst) => {
    const next = text
      .split('\n')
      .map((line) => cutText(line.trim(), LIMITS.lineCharacters))
      .filter(Boolean)
      .slice(0, MOST_LINES)
    if (next.length > 0 && next.join('\n') !== lines.join('\n')) onChange(next, isFirst)
  })
  return (
    <Input.TextArea
      aria-label={say('step.textOfTheCard')}
      value={typed.value}
      autoSize={{ minRows: 2, maxRows: MOST_LINES }}
      onChange={(event) => typed.onChange(event.target.value)}
      onBlur={typed.onBlur}
    />
  )
}
