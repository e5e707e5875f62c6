import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import { clamp, type Seconds } from '@/core/units'
import type { WordPlace } from '../../lesson/lessonStore'

export type PanelTab = 'selected' | 'music' | 'sounds' | 'shelf' | 'video'

/** How the sheet is shown: the same for all lessons in this browser, and no part of any document. */
interface SheetView {
  pixelsPerSecond: number
  waveHeight: number
  /** Of the easel and the panel, in pixels; null: as the window is wide. */
  sideWidth: number | null
  /** Whether the picture is as wide as the side; null: as the window is wide. */
  isEaselLarge: boolean | null
  panel: PanelTab
  /** Only where there is no room for the panel beside the score; otherwise it is always there. */
  isPanelUnfolded: boolean
  /** What is unfolded in the panel. */
  unfolded: readonly string[]
  /** The word that is being written anew. */
  correcting: WordPlace | null
  setScale(pixelsPerSecond: number): void
  setWaveHeight(height: number): void
  setSideWidth(width: number): void
  setEaselLarge(isLarge: boolean): void
  setPanel(panel: PanelTab): void
  setPanelUnfolded(isUnfolded: boolean): void
  setUnfolded(keys: readonly string[]): void
  correct(word: WordPlace | null): void
}

export const SCALES = { least: 16, most: 400, usual: 80 }
export const WAVE_HEIGHTS = [28, 46, 72, 110] as const
export const SIDE_WIDTHS = { least: 320, usual: 392, wide: 560, most: 820 }
/** From this width of the window on there is room for a wide side with a large easel. */
export const WIDE_WINDOW = 1600

export const useSheetView = create<SheetView>()(
  persist(
    (set) => ({
      pixelsPerSecond: SCALES.usual,
      waveHeight: WAVE_HEIGHTS[1],
      sideWidth: null,
      isEaselLarge: null,
      panel: 'selected',
      isPanelUnfolded: false,
      unfolded: [],
      correcting: null,
      setScale: (value) => set({ pixelsPerSecond: clamp(value, SCALES.least, SCALES.most) }),
      setWaveHeight: (waveHeight) => set({ waveHeight }),
      setSideWidth: (width) => set({ sideWidth: clamp(Math.round(width), SIDE_WIDTHS.least, SIDE_WIDTHS.most) }),
      setEaselLarge: (isEaselLarge) => set({ isEaselLarge }),
      setPanel: (panel) => set({ panel }),
      setPanelUnfolded: (isPanelUnfolded) => set({ isPanelUnfolded }),
      setUnfolded: (unfolded) => set({ unfolded }),
      correct: (correcting) => set({ correcting }),
    }),
    { name: 'yarn-step-sheet', partialize: ({ sideWidth, isEaselLarge }) => ({ sideWidth, isEaselLarge }) },
  ),
)

export const WORDS_HEIGHT = 24
export const BED_HEIGHT = 30
const ROW_PADDING = 10
export const LEAST_ROW = 104
/** Beside the lines: the picture to the left, the length to the right. */
const MARGINS = { left: 148, right: 104 }
/** Where the sheet is narrow: on a phone, or much enlarged. */
const NARROW = { below: 560, left: 84, right: 66 }

/** Sizes of the sheet in pixels that follow from the view and the window. */
export interface SheetGeometry {
  pixelsPerSecond: number
  waveHeight: number
  /** What one line of the score holds. */
  lineSeconds: Seconds
  lineHeight: number
  /** What is kept free beside the lines. */
  left: number
  right: number
}

/** `width`: of the whole sheet. */
export function geometryOf(pixelsPerSecond: number, waveHeight: number, width: number): SheetGeometry {
  const { left, right } = width < NARROW.below ? NARROW : MARGINS
  return {
    left,
    right,
    pixelsPerSecond,
    waveHeight,
    lineSeconds: Math.max(1, (width - left - right) / pixelsPerSecond),
    lineHeight: WORDS_HEIGHT + waveHeight + BED_HEIGHT + 8,
  }
}

export const linesOf = (length: Seconds, { lineSeconds }: SheetGeometry): number =>
  Math.max(1, Math.ceil(length / lineSeconds - 1e-6))

export const rowHeight = (length: Seconds, geometry: SheetGeometry): number =>
  Math.max(LEAST_ROW, linesOf(length, geometry) * geometry.lineHeight + 2 * ROW_PADDING)

/** Top of a row's first line within the row. */
export const ROW_TOP = ROW_PADDING
