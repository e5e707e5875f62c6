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

/** Two channels of equal length. */
export type Stereo = [left: Float32Array, right: Float32Array]

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

/** A stretch of the finished mix: the tracks as they stand in it (they add up to it), and the bed as it was laid out. */
export interface MixBlock {
  sum: Stereo
  tracks: Record<TrackName, Stereo>
  bedRaw: Stereo
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
  const tracks = {} as Record<TrackName, Stereo>
  let bedRaw: Stereo = tracks.bed
  for (const name of TRACKS) {
    if (name === 'voice') {
      tracks.voice = await renderVoice(plan, source, from, frames, factor)
      continue
    }
    const { laid, played } = await renderTrack(plan, name, source, start, length, factor)
    tracks[name] = played
    if (name === 'bed') bedRaw = laid
  }
  const sum = summed(TRACKS.map((name) => tracks[name]))
  const limit = limiterGain(sum, frames, toFactor(plan.ceiling))
  const finish = (stereo: Stereo) => stereo.map((channel) => finished(channel, frames, limit)) as Stereo
  const { voice, recordings, sounds, bed } = tracks
  return {
    sum: finish(sum),
    tracks: { voice: finish(voice), recordings: finish(recordings), sounds: finish(sounds), bed: finish(bed) },
    bedRaw: bedRaw.map((channel) => finished(channel, frames, null)) as Stereo,
  }
}

/** The voice, limited for itself, with LIMITER_MARGIN to each side. */
async function renderVoice(
  plan: MixPlan,
  source: SampleSource,
  from: SampleIndex,
  frames: number,
  factor: number,
): Promise<Stereo> {
  const side = VOICE_MARGIN + LIMITER_MARGIN
  const { played } = await renderTrack(plan, 'voice', source, from - side, frames + 2 * side, factor)
  const wanted = frames + 2 * VOICE_MARGIN
  const limit = limiterGain(played, wanted, toFactor(plan.ceiling - VOICE_UNDER_CEILING))
  const outer = VOICE_MARGIN - LIMITER_MARGIN
  return played.map((channel) => finished(channel, wanted, limit).subarray(outer, wanted - outer)) as Stereo
}

/** A track as its clips lie, and as it is heard: with its pocket and its gain, or silent. */
async function renderTrack(
  { clips, gains, muted, pocket }: MixPlan,
  name: TrackName,
  source: SampleSource,
  start: SampleIndex,
  length: number,
  factor: number,
): Promise<{ laid: Stereo; played: Stereo }> {
  const hasPocket = name === 'bed' && pocket !== null
  const runUp = hasPocket ? POCKET_RUN_UP : 0
  const early = await renderClips(clips[name], source, start - runUp, length + runUp, factor)
  const laid = early.map((channel) => channel.subarray(runUp)) as Stereo
  if (muted.includes(name)) return { laid, played: silence(length) }
  const dipped = hasPocket ? inPocket(early, pocket, start) : laid
  return { laid, played: gains[name] ? ridden(dipped, gains[name], start) : dipped }
}

const silence = (length: number): Stereo => [new Float32Array(length), new Float32Array(length)]

const inPocket = (early: Stereo, pocket: PocketPlan, start: SampleIndex) =>
  early.map((channel) => takePocket(channel, pocket, start)) as Stereo

/** The mix, block by block: all of it, or from a multiple of GRID on. It may go beyond the plan's end, to fill a last video frame. */
export async function* renderWhole(
  plan: MixPlan,
  source: SampleSource,
  { from = 0, to = plan.length }: Partial<SampleRange> = {},
  blockLength: number = HOUSE_RATE / 2,
): AsyncGenerator<MixBlock> {
  for (let at = from; at < to; at += blockLength) {
    yield await renderMix(plan, source, at, Math.min(blockLength, to - at))
  }
}

async function renderClips(
  clips: readonly Clip[],
  source: SampleSource,
  start: number,
  length: number,
  factor: number,
) {
  const out = silence(length)
  for (const clip of clips) {
    const from = Math.max(start, clip.at)
    const to = Math.min(start + length, clip.at + clip.length)
    if (to <= from) continue
    const samples = await clipSamples(clip, source, from - clip.at, to - from)
    addClip(out, clip, samples, from, start, factor * toFactor(clip.gain))
  }
  return out
}

/** A clip's own samples from its sample `at` on. */
function clipSamples({ media, from, speed }: Clip, source: SampleSource, at: SampleIndex, frames: number) {
  if (speed === 1) return source(media, from + at, frames)
  return stretched((first, count) => source(media, first, count), from, speed, at, frames)
}

function addClip(out: Stereo, clip: Clip, samples: Float32Array[], from: number, start: number, factor: number): void {
  out.forEach((channel, c) => {
    const input = samples[c] ?? samples[0]
    if (!input) return
    for (let i = 0; i < input.length; i++) {
      const place = from + i - clip.at
      const fading = place < clip.fadeIn || clip.length - place < clip.fadeOut
      channel[from - start + i]! += input[i]! * factor * (fading ? fadeFactor(clip, place) : 1)
    }
  })
}

/** Puts the ride on a track; between its points the factor runs straight. */
function ridden(track: Stereo, gain: GainTrack, start: SampleIndex): Stereo {
  const cell = HOUSE_RATE / RIDE_RATE
  const last = gain.length - 1
  const factorAt = (i: number) => toFactor(gain[Math.max(0, Math.min(last, i))] ?? 0)
  return track.map((channel) => {
    const out = new Float32Array(channel.length)
    for (let i = 0; i < out.length;) {
      const index = Math.floor((start + i) / cell)
      const a = factorAt(index)
      const slope = (factorAt(index + 1) - a) / cell
      const end = Math.min(out.length, (index + 1) * cell - start)
      for (; i < end; i++) out[i] = channel[i]! * (a + slope * (start + i - index * cell))
    }
    return out
  }) as Stereo
}

function summed(tracks: Stereo[]): Stereo {
  return [0, 1].map((c) => {
    const out = new Float32Array(tracks[0]![0].length)
    for (const track of tracks) {
      const channel = track[c]!
      for (let i = 0; i < out.length; i++) out[i]! += channel[i]!
    }
    return out
  }) as Stereo
}

function finished(channel: Float32Array, frames: number, limit: Float32Array | null): Float32Array {
  const out = channel.slice(LIMITER_MARGIN, LIMITER_MARGIN + frames)
  if (limit) for (let i = 0; i < frames; i++) out[i]! *= limit[i]!
  return out
}
