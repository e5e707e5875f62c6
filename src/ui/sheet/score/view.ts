import { create } from 'zustand'
import { clamp, type Seconds } from '@/core/units'

/** How the sheet is shown: the same for all lessons in this window, and no part of any document. */
interface SheetView {
  pixelsPerSecond: number
  waveHeight: number
  setScale(pixelsPerSecond: number): void
  setWaveHeight(height: number): void
}

export const SCALES = { least: 16, most: 400, usual: 80 }
export const WAVE_HEIGHTS = [28, 46, 72, 110] as const

export const useSheetView = create<SheetView>()((set) => ({
  pixelsPerSecond: SCALES.usual,
  waveHeight: WAVE_HEIGHTS[1],
  setScale: (value) => set({ pixelsPerSecond: clamp(value, SCALES.least, SCALES.most) }),
  setWaveHeight: (waveHeight) => set({ waveHeight }),
}))

export const WORDS_HEIGHT = 24
export const BED_HEIGHT = 30
const ROW_PADDING = 10
export const LEAST_ROW = 104
export const LEFT_MARGIN = 148
export const RIGHT_MARGIN = 104

/** Sizes of the sheet in pixels that follow from the view and the window. */
export interface SheetGeometry {
  pixelsPerSecond: number
  waveHeight: number
  /** What one line of the score holds. */
  lineSeconds: Seconds
  lineHeight: number
}

export function geometryOf(pixelsPerSecond: number, waveHeight: number, scoreWidth: number): SheetGeometry {
  return {
    pixelsPerSecond,
    waveHeight,
    lineSeconds: Math.max(1, scoreWidth / pixelsPerSecond),
    lineHeight: WORDS_HEIGHT + waveHeight + BED_HEIGHT + 8,
  }
}

export const linesOf = (length: Seconds, { lineSeconds }: SheetGeometry): number =>
  Math.max(1, Math.ceil(length / lineSeconds - 1e-6))

export const rowHeight = (length: Seconds, geometry: SheetGeometry): number =>
  Math.max(LEAST_ROW, linesOf(length, geometry) * geometry.lineHeight + 2 * ROW_PADDING)

/** Top of a row's first line within the row. */
export const ROW_TOP = ROW_PADDING
