import { USUAL_FRAME, type FrameSettings, type FrameShape, type Framing } from '@/core/lesson/framing'
import type { Hertz } from '@/core/units'

/** Units of the shorter side: everything over a picture is drawn in these, however many pixels there are. */
export const UNITS = 1080

/** How large the pictures of a lesson are, in units, and how many pixels a unit has. */
export interface Frame {
  width: number
  height: number
  pixels: number
  /** Pictures a second. */
  rate: Hertz
}

export interface Size {
  width: number
  height: number
}

const SIZES: Record<FrameShape, Size> = {
  '16:9': { width: 1920, height: 1080 },
  '4:3': { width: 1440, height: 1080 },
  '1:1': { width: 1080, height: 1080 },
  '9:16': { width: 1080, height: 1920 },
}

export const frameOf = ({ shape, lines, rate }: FrameSettings): Frame => ({
  ...SIZES[shape],
  pixels: lines / UNITS,
  rate,
})

export const COMMON_FRAME = frameOf(USUAL_FRAME)

/** In pixels. */
export const rasterSize = ({ width, height, pixels }: Frame): Size => ({
  width: Math.round(width * pixels),
  height: Math.round(height * pixels),
})

/** Where a picture of some size lies in the frame, in pixels; beyond its edges where it fills it. Whole pairs of pixels. */
export function placeInFrame(picture: Size, into: Size, { way, middle }: Framing): Size & { x: number; y: number } {
  const across = [into.width / picture.width, into.height / picture.height]
  const scale = way === 'fill' ? Math.max(...across) : Math.min(...across)
  const width = rounded(picture.width * scale, into.width)
  const height = rounded(picture.height * scale, into.height)
  return {
    width,
    height,
    x: paired((into.width - width) * middle.x),
    y: paired((into.height - height) * middle.y),
  }
}

/** A row or column of the ground narrower than this is a rounding. */
const ROUNDING = 4 // pixels

const rounded = (size: number, whole: number) =>
  Math.abs(whole - size) <= ROUNDING ? whole : Math.max(2, paired(size))
const paired = (length: number) => 2 * Math.round(length / 2) || 0

/** What a plain ground is for pictures that are light at their edges, and for those that are dark there. */
export const PLAIN_GROUNDS = { light: '#ffffff', dark: '#161d29' } as const

/** The colour round a picture that does not fill the frame; blurred grounds are made of the picture. */
export const groundColour = ({ ground }: Framing, isDark: boolean): string =>
  ground === 'plain' || ground === 'blurred' ? PLAIN_GROUNDS[isDark ? 'dark' : 'light'] : ground

/** A blurred ground: by a Gaussian of this deviation in units, of the picture made so much larger that its edges are not seen. */
export const GROUND_BLUR = { deviation: 30, larger: 1.2 } as const
