'use client'

import { useSyncExternalStore } from 'react'
import { SIDE_WIDTHS, useSheetView, WIDE_WINDOW } from './view'

/** The side of the sheet, with the easel and the panel: as wide as was set, or as the window asks for. */

const isWide = (): boolean => window.innerWidth >= WIDE_WINDOW

function useIsWide(): boolean {
  return useSyncExternalStore(subscribe, isWide, () => false)
}

function subscribe(listener: () => void): () => void {
  window.addEventListener('resize', listener)
  return () => window.removeEventListener('resize', listener)
}

export function useSide(): { width: number; isEaselLarge: boolean } {
  const wide = useIsWide()
  const { sideWidth, isEaselLarge } = useSheetView()
  return { width: sideWidth ?? (wide ? SIDE_WIDTHS.wide : SIDE_WIDTHS.usual), isEaselLarge: isEaselLarge ?? wide }
}

export const isEaselLarge = (): boolean => useSheetView.getState().isEaselLarge ?? isWide()
