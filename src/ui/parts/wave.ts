import { HOP } from '@/core/measure/energyMeter'
import type { Seconds } from '@/core/units'

/** A take is drawn as if its usual peaks were this much higher. */
export const WAVE_GAIN = 1.5

/** A pen for a canvas of this size in CSS pixels, as sharp as the screen is. */
export function penOn(canvas: HTMLCanvasElement, width: number, height: number): CanvasRenderingContext2D {
  const density = window.devicePixelRatio || 1
  canvas.width = Math.round(width * density)
  canvas.height = Math.round(height * density)
  const pen = canvas.getContext('2d')!
  pen.scale(density, density)
  return pen
}

interface WavePlace {
  /** Pixels, first and after the last one. */
  from: number
  to: number
  /** Half of the height (px), and where it lies. */
  middle: number
  /** The moment of the wave at a pixel's left edge. */
  timeAt: (x: number) => Seconds
}

/** Draws a wave of lowest and highest of each 10 ms (see core/measure/analysis), a column a pixel; what is clipped in `fault`. */
export function drawWave(
  pen: CanvasRenderingContext2D,
  wave: Int8Array,
  { from, to, middle, timeAt }: WavePlace,
  colours: { wave: string; fault: string },
): void {
  // A canvas reads a colour anew each time it is set: what is clipped is drawn over the rest.
  const clipped: [x: number, top: number, height: number][] = []
  pen.fillStyle = colours.wave
  for (let x = from; x < to; x++) {
    const { low, high } = extremes(wave, timeAt(x), timeAt(x + 1))
    const up = Math.min(middle, (high / 127) * middle * WAVE_GAIN)
    const down = Math.min(middle, (-low / 127) * middle * WAVE_GAIN)
    const column: [number, number, number] = [x, middle - up, Math.max(1, up + down)]
    pen.fillRect(column[0], column[1], 1, column[2])
    if (low <= -127 || high >= 127) clipped.push(column)
  }
  pen.fillStyle = colours.fault
  for (const [x, top, height] of clipped) pen.fillRect(x, top, 1, height)
}

function extremes(wave: Int8Array, from: Seconds, to: Seconds) {
  let low = 0
  let high = 0
  for (let hop = Math.max(0, Math.floor(from / HOP)); hop <= Math.floor(to / HOP - 1e-4); hop++) {
    low = Math.min(low, wave[2 * hop] ?? 0)
    high = Math.max(high, wave[2 * hop + 1] ?? 0)
  }
  return { low, high }
}
