import type { Mood } from './wish'

/** Semitones above the tonic. */
export type PitchClass = number

/** A triad, or a chord with a seventh, on a degree of the scale (0: the tonic). */
export interface Chord {
  degree: number
  /** Root, third, fifth and perhaps seventh, in semitones above the key's tonic, 0..11. */
  tones: PitchClass[]
}

const MAJOR = [0, 2, 4, 5, 7, 9, 11]
const MINOR = [0, 2, 3, 5, 7, 8, 10]
const MIXOLYDIAN = [0, 2, 4, 5, 7, 9, 10]

export const SCALES: Record<Mood, readonly PitchClass[]> = {
  calm: MAJOR,
  bright: MAJOR,
  hopeful: MAJOR,
  thoughtful: MINOR,
  serious: MINOR,
  dreamy: MIXOLYDIAN,
}

/** Four bars each, by degrees; common turns of functional and modal harmony. */
const TURNS: Record<Mood, readonly (readonly number[])[]> = {
  calm: [
    [0, 5, 3, 4],
    [0, 2, 3, 0],
    [0, 3, 1, 4],
  ],
  bright: [
    [0, 4, 5, 3],
    [0, 3, 4, 3],
    [0, 3, 0, 4],
  ],
  hopeful: [
    [3, 0, 4, 5],
    [0, 3, 5, 4],
    [5, 3, 0, 4],
  ],
  thoughtful: [
    [0, 5, 2, 6],
    [0, 3, 5, 6],
    [0, 2, 6, 3],
  ],
  serious: [
    [0, 3, 0, 6],
    [0, 5, 3, 4],
    [0, 6, 5, 6],
  ],
  dreamy: [
    [0, 6, 3, 0],
    [0, 3, 6, 3],
    [0, 4, 3, 6],
  ],
}
/** The last bars before the final tonic. */
const CADENCES: Record<Mood, readonly number[]> = {
  calm: [3, 4],
  bright: [1, 4],
  hopeful: [3, 4],
  thoughtful: [3, 4],
  serious: [5, 6],
  dreamy: [6, 3],
}

export function chordOn(mood: Mood, degree: number, withSeventh: boolean): Chord {
  const scale = SCALES[mood]
  const steps = withSeventh ? [0, 2, 4, 6] : [0, 2, 4]
  return { degree, tones: steps.map((step) => scale[(degree + step) % 7]!) }
}

/** A chord for each bar: turns of four bars that change now and then, and a cadence to the tonic at the end. */
export function progression(mood: Mood, bars: number, random: () => number): Chord[] {
  const turns = TURNS[mood]
  const degrees: number[] = []
  let turn = Math.floor(random() * turns.length)
  while (degrees.length < bars) {
    // A turn is heard twice before another one may come, so that the ear finds its way.
    for (let round = 0; round < 2; round++) degrees.push(...turns[turn]!)
    turn = Math.floor(random() * turns.length)
  }
  degrees.length = bars
  const end = [...CADENCES[mood], 0]
  const kept = Math.max(0, bars - end.length)
  degrees.splice(kept, bars - kept, ...end.slice(end.length - (bars - kept)))
  const sevenths = mood === 'dreamy' ? 0.5 : 0.12
  return degrees.map((degree, bar) => chordOn(mood, degree, bar < bars - 1 && random() < sevenths))
}

/**
 * The same number of voices for each chord, each moving as little as it can between `low` and `high` (MIDI notes): the
 * usual rule of voice leading. The tones of a chord are given to the voices so that the whole movement is least.
 */
export function leadVoices(
  chords: readonly Chord[],
  key: number,
  low: number,
  high: number,
  voices: number,
): number[][] {
  let before: number[] | null = null
  return chords.map(({ tones }) => {
    const options = placings(tones, key, low, high, voices)
    const last = before
    const best = last
      ? options.reduce((a, b) => (movement(last, b) < movement(last, a) ? b : a))
      : options[Math.floor(options.length / 2)]!
    before = best
    return best
  })
}

const movement = (a: readonly number[], b: readonly number[]) =>
  a.reduce((sum, note, i) => sum + (note - b[i]!) ** 2, 0)

/** All ways to sing a chord with so many voices in a range, lowest voice first, no two on one note; every tone is sung. */
function placings(tones: readonly PitchClass[], key: number, low: number, high: number, voices: number): number[][] {
  const notes: number[] = []
  for (let note = low; note <= high; note++) if (tones.includes((((note - key) % 12) + 12) % 12)) notes.push(note)
  const found: number[][] = []
  const need = Math.min(voices, tones.length, 3)
  const choose = (from: number, chosen: number[]) => {
    if (chosen.length === voices) {
      const heard = new Set(chosen.map((note) => (((note - key) % 12) + 12) % 12))
      if (heard.size >= need) found.push(chosen)
      return
    }
    for (let i = from; i < notes.length; i++) choose(i + 1, [...chosen, notes[i]!])
  }
  choose(0, [])
  return found.length > 0 ? found : [notes.slice(0, voices)]
}
