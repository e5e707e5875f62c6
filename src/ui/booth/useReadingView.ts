import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import { clamp } from '@/core/units'

/** How the script is shown to who speaks: kept in this browser, and no part of any document. */
interface ReadingView {
  /** Height of the letters in pixels. */
  size: number
  /** Words a minute at which it rolls while one records. */
  pace: number
  setSize(size: number): void
  setPace(pace: number): void
}

export const SIZES = { least: 20, most: 72, usual: 34 }
/** Somebody who reads to listeners says about 140 words a minute. */
export const PACES = { least: 80, most: 220, usual: 140 }

export const useReadingView = create<ReadingView>()(
  persist(
    (set) => ({
      size: SIZES.usual,
      pace: PACES.usual,
      setSize: (size) => set({ size: clamp(size, SIZES.least, SIZES.most) }),
      setPace: (pace) => set({ pace: clamp(pace, PACES.least, PACES.most) }),
    }),
    { name: 'yarn-step-reading' },
  ),
)
