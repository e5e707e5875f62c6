'use client'

import { useEffect } from 'react'

const AGAIN_AFTER = [500, 1000, 2000, 5000, 10_000, 30_000] // ms

/** Pictures that could not be had, as where the connection is lost, are asked for again: the browser alone leaves them away. */
export function usePicturesAgain(): void {
  useEffect(() => {
    const missed = new WeakMap<HTMLImageElement, { src: string; times: number }>()
    const askAgain = ({ target }: Event) => {
      if (!(target instanceof HTMLImageElement)) return
      const { src } = target
      const before = missed.get(target)
      const times = before?.src === src ? before.times : 0
      if (times >= AGAIN_AFTER.length) return
      missed.set(target, { src, times: times + 1 })
      setTimeout(() => {
        if (target.isConnected && target.src === src) target.src = src
      }, AGAIN_AFTER[times])
    }
    // What happens to a picture does not rise to the page; it passes it on its way down.
    addEventListener('error', askAgain, true)
    return () => removeEventListener('error', askAgain, true)
  }, [])
}
