import { HOUSE_RATE, type Hertz, type Seconds } from '@/core/units'
import { inFloats } from '../ffmpeg'
import { runProgram } from '../process'
import { PARTS, type MediaStore } from '../store/store'

/** A part of a file in the store, in its own time. */
export interface TakePart {
  media: string
  from: Seconds
  to: Seconds
}

/** Hands on a part of a sound in the store piece by piece: mono, at a rate at which speech is looked at. */
export async function partAtRate(
  store: MediaStore,
  { media, from, to }: TakePart,
  rate: Hertz,
  onSamples: (samples: Float32Array) => void,
  signal?: AbortSignal,
): Promise<void> {
  const { channels } = await store.info(media)
  const raw = (hertz: Hertz, count: number) => ['-f', 'f32le', '-ar', String(hertz), '-ac', String(count)]
  const input = [
    ...raw(HOUSE_RATE, channels),
    '-ss',
    from.toFixed(6),
    '-i',
    `file:${await store.local(media, PARTS.sound)}`,
  ]
  const output = ['-t', (to - from).toFixed(6), ...raw(rate, 1), 'pipe:1']
  await runProgram('ffmpeg', ['-v', 'error', ...input, ...output], {
    limit: 1800,
    signal,
    onOutput: inFloats(onSamples),
  })
}
