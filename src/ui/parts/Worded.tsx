'use client'

import { use, type ReactNode } from 'react'
import type { HandedWords } from '@/messages/words'
import { areWordsThere, takeWords } from '@/messages/say'

const AGAIN_AFTER = 2000 // ms

/**
 * What stands in it waits until the page has its words. A page that the server could not make, or that isn't there, comes as an
 * empty frame without any; they are asked for then.
 */
export function Worded({ children }: { children: ReactNode }) {
  if (!areWordsThere()) use((asked ??= askForWords()))
  return children
}

let asked: Promise<void> | undefined

async function askForWords(): Promise<void> {
  for (;;) {
    const words = await fetch('/api/words')
      .then((answer) => (answer.ok ? (answer.json() as Promise<HandedWords>) : null))
      .catch(() => null)
    if (words) return takeWords(words)
    await new Promise((resolve) => setTimeout(resolve, AGAIN_AFTER))
  }
}
