import { HOUSE_RATE, type SampleIndex } from '@/core/units'

// Local names: hot loops look these up for every sample.
const { min, max, sqrt } = Math

/** Half a window: windows overlap by so much. 20 ms holds two periods of a low voice. */
const HOP = HOUSE_RATE / 50
const WINDOW = 2 * HOP
/** A window may begin so far beside its own place; 16 ms in all, a whole period of 62 Hz. */
const REACH = HOUSE_RATE / 125
/** The place is sought on every so-manieth sample first. */
const COARSE = 6

const RISE = Float32Array.from({ length: HOP }, (_, i) => Math.sin((Math.PI / 2) * ((i + 0.5) / HOP)) ** 2)

/** Reads `frames` samples of a sound, one array a channel; shorter where it ends. */
export type ReadSound = (from: SampleIndex, frames: number) => Promise<Float32Array[]>

/**
 * A sound at another speed with its pitch kept: `frames` samples of the result from `at` on, where the result begins
 * with the sound's sample `from` and runs through it `speed` times as fast. The same samples come out however the
 * result is cut. Windows are laid where they continue the one before best (Verhelst and Roelands, "An overlap-add
 * technique based on waveform similarity", ICASSP 1993); all are found from the beginning, so that stretches should be
 * some seconds long at most.
 */
export async function stretched(
  read: ReadSound,
  from: SampleIndex,
  speed: number,
  at: SampleIndex,
  frames: number,
): Promise<Float32Array[]> {
  const windows = Math.ceil((at + frames) / HOP) + 1
  const first = Math.max(0, from - HOP - REACH)
  const sound = await read(first, Math.ceil(windows * HOP * speed) + from - first + WINDOW + 2 * REACH)
  const mono = summed(sound)
  const origin = from - first
  const out = sound.map(() => new Float32Array(frames))
  let place = origin - HOP
  for (let w = 0; w < windows; w++) {
    // Window w stands over the result from (w - 1) hops on, so that two of them cover each sample of it.
    const own = origin + Math.round((w - 1) * HOP * speed)
    place = w === 0 ? own : bestPlace(mono, place + HOP, own)
    const start = (w - 1) * HOP - at
    if (start + WINDOW > 0) sound.forEach((channel, c) => addWindow(out[c]!, start, channel, place))
  }
  return out
}

function addWindow(out: Float32Array, start: number, channel: Float32Array, place: number): void {
  const end = min(WINDOW, out.length - start, channel.length - place)
  for (let i = max(0, -start); i < end; i++) {
    const weight = i < HOP ? RISE[i]! : RISE[WINDOW - 1 - i]!
    out[start + i]! += weight * channel[place + i]!
  }
}

/** The place near `own` whose samples are most like those at `wanted`, which would go on without a seam. */
function bestPlace(mono: Float32Array, wanted: number, own: number): number {
  const rough = search(mono, wanted, own, REACH, COARSE)
  return search(mono, wanted, rough, COARSE, 1)
}

function search(mono: Float32Array, wanted: number, middle: number, reach: number, step: number): number {
  let best = middle
  let most = -Infinity
  for (let place = middle - reach; place <= middle + reach; place += step) {
    if (place < 0) continue
    const alike = likeness(mono, wanted, place, step)
    if (alike > most) [best, most] = [place, alike]
  }
  return best
}

function likeness(mono: Float32Array, a: number, b: number, step: number): number {
  let product = 0
  let energy = 1e-9
  const count = min(HOP, mono.length - max(a, b))
  for (let i = 0; i < count; i += step) {
    const value = mono[b + i]!
    product += mono[a + i]! * value
    energy += value * value
  }
  return product / sqrt(energy)
}

function summed(channels: readonly Float32Array[]): Float32Array {
  if (channels.length < 2) return channels[0] ?? new Float32Array(0)
  const [left, right] = channels as [Float32Array, Float32Array]
  return left.map((value, i) => value + right[i]!)
}
