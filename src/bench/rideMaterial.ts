import { createAnalyser, type Analysis } from '@/core/measure/analysis'
import { seededRandom } from '@/core/random'
import { noise } from '@/core/testing/signals'
import { HOUSE_RATE, toFactor, type Decibels, type Seconds } from '@/core/units'
import { LEAVING_A_BERTH } from '@/demo/leavingABerth'
import { readAloud } from '@/demo/narrator'
import { joined } from '@/media/speech/reading'

/** Voice and music on which the ride is measured: made here, with the difficulties of real material. */
export interface Piece {
  name: 'pad' | 'dynamic' | 'percussive' | 'short'
  sound: Float32Array
}

/** Several readings: what is best for one is not for another. */
export const SEEDS = [11, 23, 37]

/** A synthesised reading, sentences up to 4 dB softer or louder, with some long pauses. About two minutes. */
export async function unevenReading(seed = 11): Promise<Float32Array> {
  const random = seededRandom(seed)
  const sentences = LEAVING_A_BERTH.flatMap(({ words }) => words.match(/[^.?!]+[.?!]/g) ?? [])
  const { samples, parts } = await readAloud(sentences, 0.45)
  const pieces: Float32Array[] = [new Float32Array(5 * HOUSE_RATE)]
  parts.forEach(({ from, to }, i) => {
    const factor = toFactor((random() * 2 - 1) * 4)
    const end = parts[i + 1]?.from ?? to + 0.4
    pieces.push(samples.slice(from * HOUSE_RATE, end * HOUSE_RATE).map((value) => value * factor))
    if (i % 7 === 6) pieces.push(new Float32Array(5 * HOUSE_RATE).map((_, k) => samples[k % 9600]! * 0.2))
  })
  return joined(pieces)
}

export function pieces(): Piece[] {
  return [
    { name: 'pad', sound: chords(150, (t) => -14 + 2 * Math.sin(t / 3)) },
    { name: 'dynamic', sound: chords(150, (t) => [-12, -32, -20, -12, -30][Math.floor(t / 18) % 5]! + Math.sin(t)) },
    { name: 'percussive', sound: beats(150) },
    { name: 'short', sound: chords(9, (t) => -16 + 3 * Math.sin(t * 2.1)) },
  ]
}

export function analyse(sound: Float32Array): Analysis {
  const analyser = createAnalyser(1)
  analyser.push([sound])
  return analyser.finish()
}

function chords(length: Seconds, level: (time: Seconds) => Decibels): Float32Array {
  const { sin, PI } = Math
  const roots = [146.8, 110, 123.5, 98]
  return Float32Array.from({ length: length * HOUSE_RATE }, (_, i) => {
    const t = i / HOUSE_RATE
    const root = roots[Math.floor(t / 4) % 4]!
    const into = (t % 4) / 4
    const shape = Math.min(1, into * 8) * (1 - 0.5 * into)
    const tone = sin(2 * PI * root * t) + 0.6 * sin(2 * PI * root * 1.5 * t) + 0.4 * sin(2 * PI * root * 2.52 * t)
    return toFactor(level(t)) * 0.5 * shape * tone
  })
}

/** A drum on every beat, a snare on every second, and a soft bass: 12 dB and more between strokes. */
function beats(length: Seconds): Float32Array {
  const { sin, exp, PI } = Math
  const hiss = noise(HOUSE_RATE, 4)
  return Float32Array.from({ length: length * HOUSE_RATE }, (_, i) => {
    const t = i / HOUSE_RATE
    const beat = t % 0.6
    const kick = 0.6 * exp(-beat * 14) * sin(2 * PI * 62 * beat)
    const snare = Math.floor(t / 0.6) % 2 ? 0.35 * exp(-beat * 18) * hiss[Math.floor(beat * HOUSE_RATE)]! : 0
    const bass = 0.08 * sin(2 * PI * (Math.floor(t / 2.4) % 2 ? 98 : 82) * t)
    return 0.7 * (kick + snare + bass)
  })
}
