import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { InferenceSession, Tensor, env } from 'onnxruntime-web/wasm'
import { analysisLength, type Analysis } from '@/core/measure/analysis'
import { HOP } from '@/core/measure/energyMeter'
import { speechShare, type HeardFrame } from '@/core/measure/speechOrMusic'
import type { Seconds } from '@/core/units'
import { projectFolder } from '../settings'
import type { MediaStore } from '../store/store'
import { partAtRate, type TakePart } from './partAtRate'
import { joined } from './reading'

/** What is listened to: the loudest stretch of each third. */
const STRETCH: Seconds = 10
const STRETCHES = 3

/** How much of what is loud in a sound a neural detector takes for somebody speaking, 0..1. */
export async function speechShareOf(store: MediaStore, media: string, analysis: Analysis): Promise<number> {
  const frames: HeardFrame[] = []
  for (const part of stretchesOf(analysis)) frames.push(...(await heardFrames(store, { media, ...part })))
  return speechShare(frames)
}

function stretchesOf(analysis: Analysis): Omit<TakePart, 'media'>[] {
  const length = analysisLength(analysis)
  if (length <= STRETCH * STRETCHES) return [{ from: 0, to: length }]
  const third = length / STRETCHES
  return Array.from({ length: STRETCHES }, (_, i) => {
    const from = i * third + loudest(analysis.energy, i * third, (i + 1) * third)
    return { from, to: from + STRETCH }
  })
}

/** Where in a part the loudest stretch begins, in whole seconds. */
function loudest(energy: ArrayLike<number>, from: Seconds, to: Seconds): Seconds {
  let best = { at: 0, sum: -1 }
  for (let at = 0; at + STRETCH <= to - from; at++) {
    let sum = 0
    const first = Math.round((from + at) / HOP)
    for (let i = first; i < first + STRETCH / HOP; i++) sum += Math.sqrt(energy[i] ?? 0)
    if (sum > best.sum) best = { at, sum }
  }
  return best.at
}

/** What the detector is made for: 16 kHz, frames of 32 ms, each with the end of the one before it. */
const RATE = 16_000
const FRAME = 512
const CONTEXT = 64
const STATE = [2, 1, 128]
/** It was trained on voices about this loud. */
const USUAL_RMS = 0.1

async function heardFrames(store: MediaStore, part: TakePart): Promise<HeardFrame[]> {
  const pieces: Float32Array[] = []
  await partAtRate(store, part, RATE, (samples) => pieces.push(samples.slice()))
  const samples = atUsualLevel(joined(pieces))
  const session = await detector()
  const rate = new Tensor('int64', [RATE], [])
  let state: Tensor = new Tensor('float32', new Float32Array(STATE.reduce((a, b) => a * b)), STATE)
  const frames: HeardFrame[] = []
  const input = new Float32Array(CONTEXT + FRAME)
  for (let at = 0; at + FRAME <= samples.length; at += FRAME) {
    input.copyWithin(0, FRAME)
    input.set(samples.subarray(at, at + FRAME), CONTEXT)
    const { output, stateN } = await session.run({
      input: new Tensor('float32', input, [1, input.length]),
      state,
      sr: rate,
    })
    state = stateN!
    const own = samples.subarray(at, at + FRAME)
    frames.push({ speech: Number(output!.data[0]), energy: own.reduce((sum, value) => sum + value * value, 0) })
  }
  return frames
}

function atUsualLevel(samples: Float32Array): Float32Array {
  const power = samples.reduce((sum, value) => sum + value * value, 0) / Math.max(1, samples.length)
  const gain = power > 0 ? USUAL_RMS / Math.sqrt(power) : 1
  return samples.map((value) => Math.max(-1, Math.min(1, value * gain)))
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
