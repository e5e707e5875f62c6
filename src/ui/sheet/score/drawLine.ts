import type { PassageSpan } from '@/core/lesson/timeline'
import type { Analysis } from '@/core/measure/analysis'
import { clamp, type Lufs, type Seconds } from '@/core/units'
import type { Palette } from '../../ground/palette'
import { drawWave, penOn } from '../../parts/wave'
import type { RowSpan } from './rowContents'
import { BED_HEIGHT, type SheetGeometry } from './view'

/** The bed's ribbon shows this range below the voice; at its lower end it is a hair. */
const RIBBON_RANGE = { top: -14, bottom: -42 } // LUFS
/** Pixels from one stroke of the music's hatch to the next. */
const HATCH = 7

export interface LineContent {
  span: RowSpan
  passages: readonly PassageSpan[]
  analysisOf: (media: string) => Analysis | undefined
  /** Loudness of the music from the line's beginning on, each tenth of a second; null: none is drawn. */
  bed: Float32Array | null
  colours: Palette
}

/** Draws one line of a row: graph lines, the voice's wave, the bed as a ribbon. `from` and `to` are the step's time. */
export function drawLine(
  canvas: HTMLCanvasElement,
  from: Seconds,
  to: Seconds,
  content: LineContent,
  geometry: SheetGeometry,
): void {
  const { pixelsPerSecond, waveHeight } = geometry
  const width = Math.max(1, Math.ceil((to - from) * pixelsPerSecond))
  const height = waveHeight + BED_HEIGHT
  canvas.style.width = `${width}px`
  canvas.style.height = `${height}px`
  const pen = penOn(canvas, width, height)
  pen.fillStyle = content.colours.graph
  drawSeconds(pen, content.span.start, from, to, pixelsPerSecond, height)
  drawWaves(pen, from, width, content, geometry)
  if (content.bed) drawRibbon(pen, from, width, content.bed, geometry, content.colours)
}

/** Seconds are counted from the step's own start. */
function drawSeconds(
  pen: CanvasRenderingContext2D,
  start: Seconds,
  from: Seconds,
  to: Seconds,
  scale: number,
  height: number,
): void {
  const step = scale >= 30 ? 1 : 5
  for (let second = Math.ceil((from - start) / step) * step; second <= to - start; second += step) {
    pen.fillRect(Math.round((start + second - from) * scale), 0, 1, height)
  }
}

function drawWaves(
  pen: CanvasRenderingContext2D,
  from: Seconds,
  width: number,
  content: LineContent,
  { pixelsPerSecond, waveHeight }: SheetGeometry,
): void {
  const middle = waveHeight / 2
  const { colours } = content
  pen.fillStyle = colours.quietVoice
  pen.fillRect(0, middle - 0.5, width, 1)
  for (const { passage, start, end } of content.passages) {
    const wave = content.analysisOf(passage.media)?.wave
    if (!wave) continue
    const first = Math.max(0, Math.floor((start - from) * pixelsPerSecond))
    const last = Math.min(width, Math.ceil((end - from) * pixelsPerSecond))
    const timeAt = (x: number) => passage.from + from - start + x / pixelsPerSecond
    drawWave(pen, wave, { from: first, to: last, middle, timeAt }, { wave: colours.voice, fault: colours.fault })
  }
}

/** Thicker is louder; the ribbon hangs in the lower part of the line. */
function drawRibbon(
  pen: CanvasRenderingContext2D,
  from: Seconds,
  width: number,
  bed: Float32Array,
  { pixelsPerSecond, waveHeight }: SheetGeometry,
  colours: Palette,
): void {
  const middle = waveHeight + BED_HEIGHT / 2 + 1
  // The hatch goes on from line to line.
  const offset = Math.round(from * pixelsPerSecond)
  const drawColumns = (colour: string, isDrawn: (x: number) => boolean) => {
    pen.fillStyle = colour
    for (let x = 0; x < width; x++) {
      const level = isDrawn(x) ? levelAt(bed, x / pixelsPerSecond) : null
      if (level === null) continue
      const thickness = ribbonThickness(level)
      pen.fillRect(x, middle - thickness / 2, 1, thickness)
    }
  }
  const isHatched = (x: number) => (x + offset) % HATCH < 2
  drawColumns(colours.bed, (x) => !isHatched(x))
  drawColumns(colours.bedHatch, isHatched)
}

/** Loudness between two readings a tenth of a second apart; null in silence. */
function levelAt(track: Float32Array, time: Seconds): Lufs | null {
  const place = time * 10
  const index = Math.floor(place)
  const a = track[index]
  const b = track[index + 1] ?? a
  if (a === undefined || b === undefined || !Number.isFinite(a) || !Number.isFinite(b)) return null
  return a + (b - a) * (place - index)
}

const ribbonThickness = (level: Lufs) => {
  const share = clamp((level - RIBBON_RANGE.bottom) / (RIBBON_RANGE.top - RIBBON_RANGE.bottom), 0, 1)
  return 1 + share * (BED_HEIGHT - 8)
}
