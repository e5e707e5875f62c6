'use client'

import { createContext, useContext, useSyncExternalStore } from 'react'
import { PALETTES, type Ground, type Palette } from './palette'

/** On which ground somebody wants to work; `system`: as the system says. */
export type GroundChoice = Ground | 'system'

export const GroundContext = createContext<Ground>('day')

export const useGround = (): Ground => useContext(GroundContext)

/** The colours for what is not drawn by style sheets. */
export const useColours = (): Palette => PALETTES[useGround()]

/** What the system asks for, also when it changes its mind; on the server what it asked for when it was `lastSeen`. */
export function useSystemGround(lastSeen: Ground): Ground {
  return useSyncExternalStore(subscribe, systemGround, () => lastSeen)
}

const DARK = '(prefers-color-scheme: dark)'
const systemGround = (): Ground => (matchMedia(DARK).matches ? 'dark' : 'day')

function subscribe(listener: () => void): () => void {
  const query = matchMedia(DARK)
  query.addEventListener('change', listener)
  return () => query.removeEventListener('change', listener)
}
