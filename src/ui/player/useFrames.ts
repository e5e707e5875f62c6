'use client'

import { useEffect } from 'react'
import { useDesk } from '../lesson/context'

/**
 * Runs `show` at every frame while the lesson plays, and once when it stops, when the place jumps and when `show` is
 * another: while nothing moves, nothing is drawn.
 */
export function useFrames(show: () => void): void {
  const { player } = useDesk()
  useEffect(() => {
    let frame = 0
    const run = () => {
      show()
      if (player.isPlaying()) frame = requestAnimationFrame(run)
    }
    // Many jumps within a frame are one.
    const runSoon = () => {
      cancelAnimationFrame(frame)
      frame = requestAnimationFrame(run)
    }
    run()
    const leave = player.subscribe(runSoon)
    return () => {
      leave()
      cancelAnimationFrame(frame)
    }
  }, [player, show])
}
