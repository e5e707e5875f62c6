import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { joined, readAloud as sayScript } from '@/media/speech/reading'
import { openAssets } from '@/media/store/assets'
import { folderObjects } from '@/media/store/folderObjects'
import { HOUSE_RATE, type Seconds } from '@/core/units'

/** A reading of several parts, and where each part's words begin and end in it. */
export interface Reading {
  samples: Float32Array
  parts: { from: Seconds; to: Seconds }[]
}

/** Has the parts read by the synthesiser, with `pause` seconds between them and a little room before the first. */
export async function readAloud(parts: readonly string[], pause: Seconds): Promise<Reading> {
  const pieces: Float32Array[] = [new Float32Array(Math.round(0.8 * HOUSE_RATE))]
  const spans: Reading['parts'] = []
  let at = pieces[0]!.length
  for (const words of parts) {
    const spoken = trimmed(await speak(words))
    spans.push({ from: at / HOUSE_RATE, to: (at + spoken.length) / HOUSE_RATE })
    const silence = new Float32Array(Math.round(pause * HOUSE_RATE))
    pieces.push(spoken, silence)
    at += spoken.length + silence.length
  }
  return { samples: withRoom(joined(pieces)), parts: spans }
}

async function speak(words: string): Promise<Float32Array> {
  const settings = { voice: 'espeak-ng:en-gb', rate: 126, pitch: 42, pause: 0.3 }
  const folder = await mkdtemp(join(tmpdir(), 'yarn-step-speech-'))
  // Part for part at one rate: none is counted by itself.
  const { samples } = await sayScript(words, settings, [], openAssets(folderObjects(folder)), { around: '' })
  await rm(folder, { recursive: true })
  return samples
}

function trimmed(samples: Float32Array): Float32Array {
  const loud = (value: number) => Math.abs(value) > 0.004
  return samples.slice(Math.max(0, samples.findIndex(loud)), samples.findLastIndex(loud) + 1)
}

/** The faint noise of a quiet room, so that the pauses are not dead. */
function withRoom(samples: Float32Array): Float32Array {
  let state = 1
  let low = 0
  return samples.map((value) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    low += 0.1 * (state / 2147483648 - 1 - low)
    return (value * 0.8) / 0.7 + low * 0.0012
  })
}
