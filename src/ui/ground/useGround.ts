'use client'

import { createContext, useContext, useSyncExternalStore } from 'react'
import { PALETTES, type Ground, type Palette } from './palette'

/** On which ground somebody wants to work; `system`: as the system says. */
export type GroundChoice = Ground | 'system'

export const GroundContext = createContext<Ground>('day')

export const useGround = (): Ground => useContext(GroundContext)

/** The colours for what is not drawn by style sheets. */
export const useColours = (): Palette => PALETTES[useGround()]

/** The ground that follows from a choice, also when the system changes its mind. */
export function useChosenGround(choice: GroundChoice): Ground {
  const isDark = useSyncExternalStore(subscribe, isSystemDark, () => false)
  if (choice !== 'system') return choice
  return isDark ? 'dark' : 'day'
}

const DARK = '(prefers-color-scheme: dark)'
const isSystemDark = (): boolean => matchMedia(DARK).matches

function subscribe(listener: () => void): () => void {
  const query = matchMedia(DARK)
  query.addEventListener('change', listener)
  return () => query.removeEventListener('change', listener)
}
