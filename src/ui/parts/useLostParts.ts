'use client'

import { useEffect } from 'react'

const AGAIN_AFTER = [500, 1000, 2000, 5000, 10_000, 30_000] // ms

/** Pictures and styles that could not be had, as where the connection is lost, are asked for again: a browser leaves them away. */
export function useLostParts(): void {
  useEffect(() => {
    /** By address: how often it was asked for in vain. */
    const missed = new Map<string, number>()
    const askAgain = (part: Part) => {
      const address = addressOf(part)
      const times = missed.get(address) ?? 0
      if (times >= AGAIN_AFTER.length) return
      missed.set(address, times + 1)
      setTimeout(() => addressOf(part) === address && reload(part), AGAIN_AFTER[times])
    }
    // What was lost before anybody listened.
    document.querySelectorAll<Part>('img, link[rel=stylesheet]').forEach((part) => {
      if (isLost(part)) askAgain(part)
    })
    const onError = ({ target }: Event) => isPart(target) && askAgain(target)
    const onLoad = ({ target }: Event) => isPart(target) && missed.delete(addressOf(target))
    // What happens to a part does not rise to the page; it passes it on its way down.
    addEventListener('error', onError, true)
    addEventListener('load', onLoad, true)
    return () => {
      removeEventListener('error', onError, true)
      removeEventListener('load', onLoad, true)
    }
  }, [])
}

type Part = HTMLImageElement | HTMLLinkElement

const isPart = (target: EventTarget | null): target is Part =>
  target instanceof HTMLImageElement || (target instanceof HTMLLinkElement && target.rel === 'stylesheet')

const addressOf = (part: Part) => (part instanceof HTMLImageElement ? part.src : part.href)

const isLost = (part: Part) =>
  part instanceof HTMLImageElement ? part.complete && part.naturalWidth === 0 : part.sheet === null

function reload(part: Part): void {
  // A style is not asked for again under the same address where it stands.
  if (part instanceof HTMLLinkElement) part.replaceWith(part.cloneNode())
  else part.src = addressOf(part)
}
