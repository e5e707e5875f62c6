'use client'

import { createContext, useContext } from 'react'
import type { Preferences } from './preferences'

interface Shared {
  preferences: Preferences
  prefer<K extends keyof Preferences>(name: K, value: Preferences[K]): void
}

export const PreferencesContext = createContext<Shared | null>(null)

export function usePreferences(): Shared {
  const shared = useContext(PreferencesContext)
  if (!shared) throw new Error('used outside the pages')
  return shared
}
