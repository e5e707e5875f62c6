import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { InferenceSession, Tensor, env } from 'onnxruntime-web/wasm'
import { analysisLength, type Analysis } from '@/core/measure/analysis'
import { HOP } from '@/core/measure/energyMeter'
import { speechShare, type HeardFrame } from '@/core/measure/speechOrMusic'
import type { Seconds } from '@/core/units'
import { projectFolder } from '../settings'
import type { MediaStore } from '../store/store'
import { partAtRate } from './partAtRate'
import { joined } from './reading'

/** What is listened to: the loudest place of each twelfth, all at once. */
const PLACES = 12
const PLACE: Seconds = 1.2

/** How much of what is loud in a sound a neural detector takes for somebody speaking, 0..1. */
export async function speechShareOf(store: MediaStore, media: string, analysis: Analysis): Promise<number> {
  const places: Float32Array[] = []
  for (const from of placesIn(analysis)) places.push(await partOf(store, media, from))
  return speechShare(await heardFrames(places))
}

async function partOf(store: MediaStore, media: string, from: Seconds): Promise<Float32Array> {
  const pieces: Float32Array[] = []
  await partAtRate(store, { media, from, to: from + PLACE }, RATE, (samples) => pieces.push(samples.slice()))
  const part = new Float32Array(PLACE_FRAMES * FRAME)
  part.set(joined(pieces).subarray(0, part.length))
  return part
}

function placesIn(analysis: Analysis): Seconds[] {
  const twelfth = analysisLength(analysis) / PLACES
  return Array.from({ length: PLACES }, (_, i) => loudest(analysis.energy, i * twelfth, (i + 1) * twelfth))
}

/** Where in a part the loudest place begins, in tenths of a second; its beginning where it is no longer than one. */
function loudest(energy: ArrayLike<number>, from: Seconds, to: Seconds): Seconds {
  let best = { at: from, sum: -1 }
  for (let at = from; at + PLACE <= to; at += 0.1) {
    let sum = 0
    const first = Math.round(at / HOP)
    for (let i = first; i < first + PLACE / HOP; i++) sum += Math.sqrt(energy[i] ?? 0)
    if (sum > best.sum) best = { at, sum }
  }
  return best.at
}

/** What the detector is made for: 16 kHz, frames of 32 ms, each with the end of the one before it. */
const RATE = 16_000
const FRAME = 512
const CONTEXT = 64
const STATE = 128
const PLACE_FRAMES = Math.floor((PLACE * RATE) / FRAME)
/** It needs a moment to find its way into a place. */
const FIRST_FRAMES = 4
/** It was trained on voices about this loud. */
const USUAL_RMS = 0.1

/** Listens to all places at the same time: much quicker than one after the other. */
async function heardFrames(places: readonly Float32Array[]): Promise<HeardFrame[]> {
  const count = places.length
  const level = atUsualLevel(places)
  const session = await detector()
  const rate = new Tensor('int64', [RATE], [])
  let state: Tensor = new Tensor('float32', new Float32Array(2 * count * STATE), [2, count, STATE])
  const width = CONTEXT + FRAME
  const frames: HeardFrame[] = []
  for (let f = 0; f < PLACE_FRAMES; f++) {
    const input = new Float32Array(count * width)
    level.forEach((samples, p) => {
      const from = Math.max(0, f * FRAME - CONTEXT)
      const own = samples.subarray(from, (f + 1) * FRAME)
      input.set(own, (p + 1) * width - own.length)
    })
    const { output, stateN } = await session.run({
      input: new Tensor('float32', input, [count, width]),
      state,
      sr: rate,
    })
    state = stateN!
    if (f < FIRST_FRAMES) continue
    places.forEach((samples, p) =>
      frames.push({
        speech: Number(output!.data[p]),
        energy: samples.subarray(f * FRAME, (f + 1) * FRAME).reduce((sum, value) => sum + value * value, 0),
      }),
    )
  }
  return frames
}

function atUsualLevel(places: readonly Float32Array[]): Float32Array[] {
  const total = places.reduce((sum, samples) => sum + samples.reduce((own, value) => own + value * value, 0), 0)
  const power = total / (places.length * PLACE_FRAMES * FRAME)
  const gain = power > 0 ? USUAL_RMS / Math.sqrt(power) : 1
  return places.map((samples) => samples.map((value) => Math.max(-1, Math.min(1, value * gain))))
}

let loaded: Promise<InferenceSession> | undefined

/** The speech detector Silero VAD, fifth version (MIT), as `@ricky0123/vad-web` ships it. */
function detector(): Promise<InferenceSession> {
  env.wasm.numThreads = 1
  loaded ??= readFile(join(projectFolder(), 'node_modules/@ricky0123/vad-web/dist/silero_vad_v5.onnx')).then((model) =>
    InferenceSession.create(model),
  )
  return loaded
}
