'use client'

import { useEffect, type RefObject } from 'react'
import { useFrames } from '../player/useFrames'

/** By which a picture or a recording says that something else is seen in it. */
const SHOWS_ANOTHER = ['load', 'loadeddata', 'seeked'] as const

/** Draws what is made from the picture under it: at every frame that plays, and whenever the picture is another. */
export function useUnder(under: RefObject<HTMLElement | null>, draw: () => void): void {
  useFrames(draw)
  useEffect(() => {
    const root = under.current
    // These do not bubble: they are met on their way down.
    SHOWS_ANOTHER.forEach((name) => root?.addEventListener(name, draw, true))
    return () => SHOWS_ANOTHER.forEach((name) => root?.removeEventListener(name, draw, true))
  }, [under, draw])
}
