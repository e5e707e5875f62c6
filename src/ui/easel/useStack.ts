'use client'

import { useRef, useState } from 'react'
import { stackAt, type Stack } from '@/core/picture/stack'
import { useDesk } from '../lesson/context'
import { useFrames } from '../player/useFrames'
import { useShownTimeline } from './captionsShown'

/** What is seen now: looked up at every frame that plays, rendered only when it changes. */
export function useStack(): Stack | null {
  const { player } = useDesk()
  const timeline = useShownTimeline()
  const [now, setNow] = useState<Stack | null>(() => stackAt(timeline, player.position()))
  const told = useRef({ timeline, seen: tell(now) })
  useFrames(() => {
    const stack = stackAt(timeline, player.position())
    const seen = tell(stack)
    if (timeline === told.current.timeline && seen === told.current.seen) return
    told.current = { timeline, seen }
    setNow(stack)
  })
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
