'use client'

import { useRef } from 'react'
import { clock } from '../format'
import { useDesk } from '../lesson/context'
import { useFrames } from './useFrames'

/** The place that is heard now; written straight into the page at every frame. */
export function TimeNow({ className }: { className?: string }) {
  const { player } = useDesk()
  const text = useRef<HTMLSpanElement>(null)
  useFrames(() => {
    if (text.current) text.current.textContent = clock(player.position())
  })
  return <span ref={text} className={className} data-testid="time" />
}
