'use client'

import { useEffect, useRef } from 'react'
import { clock } from '../format'
import { useDesk } from '../lesson/context'

/** The place that is heard now; written straight into the page at every frame. */
export function TimeNow({ className }: { className?: string }) {
  const { player } = useDesk()
  const text = useRef<HTMLSpanElement>(null)
  useEffect(() => {
    let frame = 0
    const show = () => {
      if (text.current) text.current.textContent = clock(player.position())
      frame = requestAnimationFrame(show)
    }
    show()
    return () => cancelAnimationFrame(frame)
  }, [player])
  return <span ref={text} className={className} data-testid="time" />
}
