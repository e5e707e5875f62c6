import { POCKET_RUN_UP, takePocket, type PocketPlan } from '@/core/bed/pocket'
import { RIDE_RATE, type GainTrack } from '@/core/bed/ride'
import { TRACKS, type MediaHash, type TrackName } from '@/core/lesson/document'
import { HOUSE_RATE, toFactor, type SampleIndex } from '@/core/units'
import { GRID, LIMITER_MARGIN, limiterGain, VOICE_UNDER_CEILING } from './limiter'
import { fadeFactor, type Clip } from './clip'
import type { MixPlan } from './mixPlan'
import { stretched } from './stretch'

/**
 * Raised when the same plan comes to give other samples (renderer, limiter, fades, pocket, stretching): finished mixes
 * that were kept are made anew then. A test compares what comes out with what came out of this edition.
 */
export const RENDERER_EDITION = 2

/** Samples to each side of a block from which its limited voice begins: whole cells of the limiter. */
const VOICE_MARGIN: SampleIndex = GRID * Math.ceil(LIMITER_MARGIN / GRID)

/** Two channels of equal length; what sounds the same on both sides is the same array, and is reckoned once. */
export type Stereo = [left: Float32Array, right: Float32Array]

const eachSide = ([left, right]: Stereo, change: (channel: Float32Array) => Float32Array): Stereo => {
  const changed = change(left)
  return [changed, right === left ? changed : change(right)]
}

const silence = (length: number): Stereo => {
  const channel = new Float32Array(length)
  return [channel, channel]
}

/**
 * Gives `frames` samples of a media's sound from `from` on, one or two channels; where the media has none
 * (before its beginning, after its end) shorter arrays may be given or zeros.
 */
export type SampleSource = (media: MediaHash, from: SampleIndex, frames: number) => Promise<Float32Array[]>

/** From a sample to before another. */
export interface SampleRange {
  from: SampleIndex
  to: SampleIndex
}

/**
 * A stretch of the finished mix: the tracks as they stand in it (they add up to it), the bed as it was laid out, and as it comes to
 * its gain, in its pocket. They may share their samples where they are the same: to be read only.
 */
export interface MixBlock {
  sum: Stereo
  tracks: Record<TrackName, Stereo>
  bedRaw: Stereo
  bedUngained: Stereo
}

/**
 * Renders `frames` of the mix from `from` on (a multiple of GRID). Pure: the same samples come out wherever
 * rendering starts and however it is cut. Beyond the lesson's end there is silence.
 */
export async function renderMix(
  plan: MixPlan,
  source: SampleSource,
  from: SampleIndex,
  frames: number,
): Promise<MixBlock> {
  if (from % GRID !== 0) throw new RangeError(`a block must begin on a multiple of ${GRID}`)
  const start = from - LIMITER_MARGIN
  const length = frames + 2 * LIMITER_MARGIN
  const factor = toFactor(plan.gain)
  const voice = await renderVoice(plan, source, from, frames, factor)
  const [recordings, sounds, bed] = await Promise.all(
    (['recordings', 'sounds', 'bed'] as const).map((name) => renderTrack(plan, name, source, start, length, factor)),
  )
  const heard = { voice, recordings: recordings?.played, sounds: sounds?.played, bed: bed?.played }
  const sum = summed(
    TRACKS.map((name) => heard[name]).filter((track) => !!track),
    length,
  )
  const limit = limiterGain(sum, frames, toFactor(plan.ceiling))
  const nothing = silence(frames)
  const finish = (stereo: Stereo | null | undefined, gain = limit): Stereo =>
    stereo ? eachSide(stereo, (channel) => finished(channel, frames, gain)) : nothing
  return {
    sum: finish(sum),
    tracks: {
      voice: finish(heard.voice),
      recordings: finish(heard.recordings),
      sounds: finish(heard.sounds),
      bed: finish(heard.bed),
    },
    bedRaw: finish(bed?.laid, null),
    bedUngained: finish(bed?.ungained, null),
  }
}

/** The voice, limited for itself, with LIMITER_MARGIN to each side; null where it says nothing. */
async function renderVoice(
  plan: MixPlan,
  source: SampleSource,
  from: SampleIndex,
  frames: number,
  factor: number,
): Promise<Stereo | null> {
  const side = VOICE_MARGIN + LIMITER_MARGIN
  const track = await renderTrack(plan, 'voice', source, from - side, frames + 2 * side, factor)
  if (!track) return null
  const wanted = frames + 2 * VOICE_MARGIN
  const limit = limiterGain(track.played, wanted, toFactor(plan.ceiling - VOICE_UNDER_CEILING))
  const outer = VOICE_MARGIN - LIMITER_MARGIN
  return eachSide(track.played, (channel) => finished(channel, wanted, limit).subarray(outer, wanted - outer))
}

/** A track as its clips lie, with its pocket, and as it is heard: with its gain, or silent. Null where none of it lies here. */
async function renderTrack(
  { clips, gains, muted, strokes, pocket }: MixPlan,
  name: TrackName,
  source: SampleSource,
  start: SampleIndex,
  length: number,
  factor: number,
): Promise<{ laid: Stereo; ungained: Stereo; played: Stereo } | null> {
  const hasPocket = name === 'bed' && pocket !== null
  const runUp = hasPocket ? POCKET_RUN_UP : 0
  const clipped = await renderClips(clips[name], source, start - runUp, length + runUp, factor)
  if (!clipped) return null
  const early = name === 'bed' && strokes ? ridden(clipped, strokes, start - runUp) : clipped
  const laid = eachSide(early, (channel) => channel.subarray(runUp))
  if (muted.includes(name)) return { laid, ungained: laid, played: silence(length) }
  const ungained = hasPocket ? inPocket(early, pocket, start) : laid
  return { laid, ungained, played: gains[name] ? ridden(ungained, gains[name], start) : ungained }
}

const inPocket = (early: Stereo, pocket: PocketPlan, start: SampleIndex) =>
  eachSide(early, (channel) => takePocket(channel, pocket, start))

/** Each block is reckoned with a margin to both sides: short ones cost more. */
const BLOCK: SampleIndex = HOUSE_RATE

/** The mix, block by block: all of it, or from a multiple of GRID on. It may go beyond the plan's end, to fill a last video frame. */
export async function* renderWhole(
  plan: MixPlan,
  source: SampleSource,
  { from = 0, to = plan.length }: Partial<SampleRange> = {},
  blockLength: number = BLOCK,
): AsyncGenerator<MixBlock> {
  for (let at = from; at < to; at += blockLength) {
    yield await renderMix(plan, source, at, Math.min(blockLength, to - at))
  }
}

async function renderClips(
  clips: readonly Clip[],
  source: SampleSource,
  start: SampleIndex,
  length: number,
  factor: number,
): Promise<Stereo | null> {
  const here = clips.filter((clip) => clip.at < start + length && clip.at + clip.length > start)
  if (here.length === 0) return null
  const laid = await Promise.all(
    here.map(async (clip) => {
      const from = Math.max(start, clip.at)
      const to = Math.min(start + length, clip.at + clip.length)
      return { clip, from, samples: await clipSamples(clip, source, from - clip.at, to - from) }
    }),
  )
  const out = silence(length)
  if (laid.some(({ samples }) => samples.length > 1)) out[1] = new Float32Array(length)
  for (const channel of new Set(out)) {
    const side = out.indexOf(channel)
    for (const { clip, from, samples } of laid) {
      const input = samples[side] ?? samples[0]
      if (input) addClip(channel.subarray(from - start), clip, input, from - clip.at, factor * toFactor(clip.gain))
    }
  }
  return out
}

/** A clip's own samples from its sample `at` on. */
function clipSamples({ media, from, speed }: Clip, source: SampleSource, at: SampleIndex, frames: number) {
  if (speed === 1) return source(media, from + at, frames)
  return stretched((first, count) => source(media, first, count), from, speed, at, frames)
}

/** Adds a clip's samples from its sample `at` on. Fades are reckoned only where there are some. */
function addClip(out: Float32Array, clip: Clip, input: Float32Array, at: SampleIndex, factor: number): void {
  const full = within(clip.fadeIn - at, input.length)
  const fading = Math.max(full, within(clip.length - clip.fadeOut + 1 - at, input.length))
  const fade = (from: number, to: number) => {
    for (let i = from; i < to; i++) out[i]! += input[i]! * factor * fadeFactor(clip, at + i)
  }
  fade(0, full)
  for (let i = full; i < fading; i++) out[i]! += input[i]! * factor
  fade(fading, input.length)
}

const within = (place: number, length: number) => Math.max(0, Math.min(length, place))

/** Puts the ride on a track; between its points the factor runs straight. */
function ridden(track: Stereo, gain: GainTrack, start: SampleIndex): Stereo {
  const cell = HOUSE_RATE / RIDE_RATE
  const last = gain.length - 1
  const first = Math.floor(start / cell)
  const factors = Float64Array.from({ length: Math.ceil(track[0].length / cell) + 2 }, (_, i) =>
    toFactor(gain[Math.max(0, Math.min(last, first + i))] ?? 0),
  )
  return eachSide(track, (channel) => {
    const out = new Float32Array(channel.length)
    for (let i = 0; i < out.length;) {
      const index = Math.floor((start + i) / cell)
      const a = factors[index - first]!
      const slope = (factors[index - first + 1]! - a) / cell
      const end = Math.min(out.length, (index + 1) * cell - start)
      for (; i < end; i++) out[i] = channel[i]! * (a + slope * (start + i - index * cell))
    }
    return out
  })
}

function summed(tracks: readonly Stereo[], length: number): Stereo {
  const [first, ...others] = tracks
  if (!first) return silence(length)
  if (others.length === 0) return first
  const sumOf = (side: 0 | 1) => {
    const out = first[side].slice()
    for (const track of others) {
      const channel = track[side]
      for (let i = 0; i < length; i++) out[i]! += channel[i]!
    }
    return out
  }
  const left = sumOf(0)
  return [left, tracks.every(([a, b]) => a === b) ? left : sumOf(1)]
}

function finished(channel: Float32Array, frames: number, limit: Float32Array | null): Float32Array {
  const wanted = channel.subarray(LIMITER_MARGIN, LIMITER_MARGIN + frames)
  if (!limit) return wanted
  const out = new Float32Array(frames)
  for (let i = 0; i < frames; i++) out[i] = wanted[i]! * limit[i]!
  return out
}
