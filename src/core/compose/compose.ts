import { seededRandom } from '@/core/random'
import type { Seconds } from '@/core/units'
import { INSTRUMENTATION, type Layer } from './instruments'
import { leadVoices, progression, SCALES, type Chord } from './harmony'
import type { SectionKind, Wish } from './wish'

/** One note; times in beats. */
export interface Note {
  channel: number
  /** MIDI note number; on the percussion channel, the instrument. */
  key: number
  /** 1..127 */
  velocity: number
  start: number
  length: number
}

/** A piece as it would be written down. */
export interface Score {
  /** Beats a minute. */
  tempo: number
  beatsPerBar: number
  bars: number
  /** General MIDI programs by channel, counted from 0. */
  programs: { channel: number; program: number }[]
  notes: Note[]
  /** A section and the chord of each bar. */
  sections: SectionKind[]
  chords: Chord[]
  key: number
}

export const BEATS = 4
/** The percussion channel of General MIDI. */
export const DRUMS = 9
/** How far the tempo may leave what was asked for. */
const TEMPO_GIVE = 0.06
/** What the last chord rings, in beats; the last bar is longer by it. */
const RING = 2
/** While somebody speaks the notes stay out of here (MIDI notes, A3 to B4): it is where voices are strongest. */
export const VOICE_REGISTER = { low: 57, high: 71 }

/** Writes the piece that a wish asks for. */
export function compose(wish: Wish): Score {
  const random = seededRandom(wish.seed * 7919 + 13)
  const { bars, tempo } = fittingBars(wish)
  const chords = progression(wish.mood, bars, random)
  const sections = sectionsOfBars(wish, bars, tempo)
  const layers = INSTRUMENTATION[wish.kind]
  const score: Score = {
    tempo,
    beatsPerBar: BEATS,
    bars,
    programs: layers.flatMap(({ role, program }, i) => (role === 'drums' ? [] : [{ channel: channelOf(i), program }])),
    notes: [],
    sections,
    chords,
    key: wish.key,
  }
  layers.forEach((layer, i) => playLayer(score, layer, layer.role === 'drums' ? DRUMS : channelOf(i), wish, random))
  score.notes.sort((a, b) => a.start - b.start || a.channel - b.channel || a.key - b.key)
  return score
}

const channelOf = (layer: number) => (layer < DRUMS ? layer : layer + 1)

export const scoreLength = ({ bars, tempo }: Score): Seconds => ((bars * BEATS + RING) * 60) / tempo

/** Whole bars, at a tempo close to the one asked for, that end when they must. */
function fittingBars({ tempo, length }: Wish): { bars: number; tempo: number } {
  const bars = Math.max(2, Math.round(((length * tempo) / 60 - RING) / BEATS))
  const exact = ((bars * BEATS + RING) * 60) / length
  const fits = Math.abs(exact / tempo - 1) <= TEMPO_GIVE
  // A very short piece can't keep its tempo and its bars: then it keeps its length.
  return { bars, tempo: fits || bars <= 4 ? exact : tempo }
}

/** A section begins with the bar that is nearest to it. */
function sectionsOfBars({ sections }: Wish, bars: number, tempo: number): SectionKind[] {
  const bar = (BEATS * 60) / tempo
  return Array.from(
    { length: bars },
    (_, i) => sections.findLast(({ start }) => start <= i * bar + bar / 2)?.kind ?? 'body',
  )
}

type Part = { score: Score; channel: number; layer: Layer; wish: Wish; random: () => number }

function playLayer(score: Score, layer: Layer, channel: number, wish: Wish, random: () => number): void {
  const part = { score, channel, layer, wish, random }
  switch (layer.role) {
    case 'pad':
      return playPad(part)
    case 'bass':
      return playBass(part)
    case 'figure':
      return playFigure(part)
    case 'tune':
      return playTune(part)
    case 'drums':
      return playDrums(part)
  }
}

/** Where a layer plays in a section: under a voice it keeps out of the voice's register. */
function rangeIn({ low, high }: Layer, section: SectionKind): { low: number; high: number } {
  if (section !== 'body' || high < VOICE_REGISTER.low || low > VOICE_REGISTER.high) return { low, high }
  const above = high - VOICE_REGISTER.high
  const below = VOICE_REGISTER.low - low
  return above >= below
    ? { low: VOICE_REGISTER.high + 1, high: Math.max(high, VOICE_REGISTER.high + 13) }
    : { low: Math.min(low, VOICE_REGISTER.low - 13), high: VOICE_REGISTER.low - 1 }
}

/** Held chords; each stretch of one section is led as a whole. */
function playPad({ score, channel, layer }: Part): void {
  for (const { section, first, last } of stretches(score)) {
    const { low, high } = rangeIn(layer, section)
    const led = leadVoices(score.chords.slice(first, last + 1), score.key, low, high, layer.voices)
    led.forEach((voices, i) => {
      const bar = first + i
      for (const key of voices)
        add(score, channel, key, loudness(layer, score, bar), bar * BEATS, barLength(score, bar) - 0.1)
    })
  }
}

/** The root, and in busy pieces the fifth in mid-bar. */
function playBass({ score, channel, layer, wish }: Part): void {
  score.chords.forEach(({ tones }, bar) => {
    const [root, , fifth] = tones.map((tone) => noteIn(score.key + tone, layer.low, layer.high))
    const isLast = bar === score.bars - 1
    const walks = wish.density > 0.5 && !isLast
    add(score, channel, root!, loudness(layer, score, bar), bar * BEATS, walks ? 2 : barLength(score, bar) - 0.2)
    if (walks) add(score, channel, fifth!, loudness(layer, score, bar) * 0.9, bar * BEATS + 2, 1.8)
  })
}

/** Broken chords in a pattern that stays for four bars. */
function playFigure({ score, channel, layer, wish, random }: Part): void {
  const steps = wish.density > 0.66 ? 8 : wish.density > 0.3 ? 4 : 2
  let pattern: number[] = []
  score.chords.forEach(({ tones }, bar) => {
    if (bar % 4 === 0) pattern = Array.from({ length: steps }, (_, i) => (i === 0 ? 0 : Math.floor(random() * 4)))
    const { low, high } = rangeIn(layer, score.sections[bar]!)
    const notes = chordNotes(tones, score.key, low, high)
    if (bar === score.bars - 1) {
      notes
        .slice(0, 4)
        .forEach((key, i) =>
          add(score, channel, key, loudness(layer, score, bar) - 4 * i, bar * BEATS + i * 0.5, BEATS),
        )
      return
    }
    pattern.forEach((index, i) => {
      const rests = score.sections[bar] === 'body' && i > 0 && random() > 0.35 + wish.density * 0.6
      const key = notes[index % notes.length]
      if (!rests && key !== undefined)
        add(
          score,
          channel,
          key,
          loudness(layer, score, bar) - (i % 2) * 6,
          bar * BEATS + (i * BEATS) / steps,
          layer.sustain,
        )
    })
  })
}

/** A tune of steps and small leaps, chord tones on strong beats; it is silent while somebody speaks. */
function playTune({ score, channel, layer, wish, random }: Part): void {
  const scale = SCALES[wish.mood]
  let place: number | null = null
  score.chords.forEach(({ tones }, bar) => {
    if (score.sections[bar] === 'body') return void (place = null)
    const isLast = bar === score.bars - 1
    for (let beat = 0; beat < BEATS; beat += isLast ? BEATS : 2) {
      const chordTones = chordNotes(tones, score.key, layer.low, layer.high)
      const target: number = nearest(chordTones, place ?? (layer.low + layer.high) / 2)
      add(score, channel, target, loudness(layer, score, bar), bar * BEATS + beat, isLast ? BEATS : 1.4)
      place = target
      if (!isLast && wish.density > 0.35 && random() < 0.6) {
        const steps = chordNotes(scale, score.key, layer.low, layer.high)
        const passing: number = nearest(steps, target + (random() < 0.5 ? 2 : -2))
        add(score, channel, passing, loudness(layer, score, bar) - 8, bar * BEATS + beat + 1.5, 0.45)
      }
    }
  })
}

/** Soft strokes; the heavier ones only outside the voice. */
function playDrums({ score, channel, layer, wish }: Part): void {
  const [light, low, accent] = layer.strokes!
  score.sections.forEach((section, bar) => {
    if (bar === 0 || bar === score.bars - 1) return
    const steps = wish.density > 0.5 ? 8 : 4
    for (let i = 0; i < steps; i++) {
      add(
        score,
        channel,
        light!,
        loudness(layer, score, bar) - (i % 2 ? 14 : 0),
        bar * BEATS + (i * BEATS) / steps,
        0.2,
      )
    }
    add(score, channel, low!, loudness(layer, score, bar), bar * BEATS, 0.3)
    if (section !== 'body' || wish.density > 0.6)
      add(score, channel, accent!, loudness(layer, score, bar) - 8, bar * BEATS + 2, 0.3)
  })
}

function add(score: Score, channel: number, key: number, velocity: number, start: number, length: number): void {
  score.notes.push({ channel, key, velocity: Math.round(Math.min(120, Math.max(1, velocity))), start, length })
}

/** The first bars enter softly, a title and a close are fuller than the body. */
function loudness({ velocity }: Layer, { sections, bars }: Score, bar: number): number {
  const opening = bar === 0 ? -10 : bar === 1 ? -5 : 0
  const closing = bar === bars - 1 ? -6 : 0
  return velocity + opening + closing + (sections[bar] === 'body' ? -4 : 4)
}

const barLength = ({ bars }: Score, bar: number) => (bar === bars - 1 ? BEATS + RING : BEATS)

/** Bars of one section that follow each other. */
function stretches({ sections }: Score): { section: SectionKind; first: number; last: number }[] {
  const out: { section: SectionKind; first: number; last: number }[] = []
  sections.forEach((section, bar) => {
    const open = out.at(-1)
    if (open?.section === section) open.last = bar
    else out.push({ section, first: bar, last: bar })
  })
  return out
}

function chordNotes(tones: readonly number[], key: number, low: number, high: number): number[] {
  const notes: number[] = []
  for (let note = low; note <= high; note++) if (tones.includes((((note - key) % 12) + 12) % 12)) notes.push(note)
  return notes
}

function noteIn(pitch: number, low: number, high: number): number {
  let note = pitch
  while (note < low) note += 12
  while (note > high) note -= 12
  return note
}

const nearest = (notes: readonly number[], wanted: number): number =>
  notes.reduce((a, b) => (Math.abs(b - wanted) < Math.abs(a - wanted) ? b : a))
