'use client'

import { useEffect, useState } from 'react'
import { stackAt, type Stack } from '@/core/picture/stack'
import { useDesk } from '../lesson/context'
import { useShownTimeline } from './captionsShown'

/** What is seen now: looked up at every frame, rendered only when it changes. */
export function useStack(): Stack | null {
  const { player } = useDesk()
  const timeline = useShownTimeline()
  const [now, setNow] = useState<Stack | null>(() => stackAt(timeline, player.position()))
  useEffect(() => {
    let frame = 0
    let told = ''
    const look = () => {
      const stack = stackAt(timeline, player.position())
      const next = tell(stack)
      if (next !== told) setNow(stack)
      told = next
      frame = requestAnimationFrame(look)
    }
    look()
    return () => cancelAnimationFrame(frame)
  }, [player, timeline])
  return now
}

/** By what two of them are told apart; where a recording is, its own element knows. */
const tell = (stack: Stack | null): string =>
  stack === null
    ? ''
    : JSON.stringify([
        stack.between,
        stack.veil,
        stack.sides.map(({ span, seen, layers }) => [
          span.start,
          seen,
          layers.map(({ layer, area, share }) => [layer.id, area, share]),
        ]),
      ])
