import { parseMidi } from 'midi-file'
import { writeScore } from '@/core/formats/midi'
import { BEATS, compose, DRUMS, scoreLength, VOICE_REGISTER, type Score } from './compose'
import { leadVoices, progression, SCALES } from './harmony'
import { seededRandom } from '@/core/random'
import { DEFAULT_WISH, MOODS, PIECE_KINDS, type Wish } from './wish'

const wish = (part: Partial<Wish> = {}): Wish => ({
  ...DEFAULT_WISH,
  length: 120,
  sections: [
    { kind: 'title', start: 0 },
    { kind: 'body', start: 12 },
    { kind: 'close', start: 105 },
  ],
  ...part,
})
const all = PIECE_KINDS.flatMap((kind) =>
  MOODS.map((mood) => wish({ kind, mood, seed: kind.length * 31 + mood.length })),
)
const pitched = ({ notes }: Score) => notes.filter(({ channel }) => channel !== DRUMS)

test('every note of every kind and mood is in its key', () => {
  for (const one of all) {
    const scale = SCALES[one.mood]
    const outside = pitched(compose(one)).filter(({ key }) => !scale.includes((((key - one.key) % 12) + 12) % 12))
    expect(outside).toEqual([])
  }
})

test('a piece is as long as it must be, in whole bars, close to the tempo asked for', () => {
  for (const length of [31, 64.3, 120, 599]) {
    const score = compose(wish({ length }))
    expect(scoreLength(score)).toBeCloseTo(length, 6)
    expect(Math.abs(score.tempo / 72 - 1)).toBeLessThanOrEqual(0.061)
    const last = Math.max(...score.notes.map(({ start, length: beats }) => start + beats))
    expect((last * 60) / score.tempo).toBeLessThanOrEqual(length + 1e-6)
    expect((last * 60) / score.tempo).toBeGreaterThan(length - 2)
  }
})

test('it begins softly and ends with a cadence on the tonic', () => {
  for (const one of all) {
    const { chords, notes, bars } = compose(one)
    expect(chords.at(-1)!.degree).toBe(0)
    expect(chords.at(-2)!.degree).not.toBe(0)
    const mean = (bar: number) => {
      const own = notes.filter(({ start }) => Math.floor(start / BEATS) === bar)
      return own.reduce((sum, { velocity }) => sum + velocity, 0) / own.length
    }
    expect(mean(0)).toBeLessThan(mean(2))
    expect(notes.some(({ start }) => Math.floor(start / BEATS) === bars - 1)).toBe(true)
  }
})

test('while somebody speaks the register of the voice stays free', () => {
  for (const one of all) {
    const score = compose(one)
    const inBody = pitched(score).filter(({ start }) => score.sections[Math.floor(start / BEATS)] === 'body')
    const inVoice = inBody.filter(({ key }) => key >= VOICE_REGISTER.low && key <= VOICE_REGISTER.high)
    expect(inVoice).toEqual([])
    expect(inBody.length).toBeGreaterThan(20)
  }
})

test('the body is sparser than the title and the close', () => {
  for (const one of all.filter(({ kind }) => kind !== 'pads')) {
    const score = compose({ ...one, density: 0.5 })
    const perBar = (kind: string) => {
      const bars = score.sections.flatMap((section, bar) => (section === kind && bar < score.bars - 1 ? [bar] : []))
      return score.notes.filter(({ start }) => bars.includes(Math.floor(start / BEATS))).length / bars.length
    }
    expect(perBar('body')).toBeLessThanOrEqual(perBar('title'))
  }
})

test('voices move in small steps and never cross', () => {
  for (const mood of MOODS) {
    const chords = progression(mood, 40, seededRandom(4))
    const led = leadVoices(chords, 2, 50, 69, 3)
    led
      .slice(1)
      .forEach((voices, i) => voices.forEach((note, v) => expect(Math.abs(note - led[i]![v]!)).toBeLessThanOrEqual(5)))
    for (const voices of led) expect([...voices].sort((a, b) => a - b)).toEqual(voices)
  }
})

test('the same wish gives the same piece, another seed another one', () => {
  expect(compose(wish())).toEqual(compose(wish()))
  expect(compose(wish({ seed: 2 })).notes).not.toEqual(compose(wish()).notes)
})

test('it is written as a Standard MIDI File that says the same', () => {
  const score = compose(wish({ kind: 'keys' }))
  const { header, tracks } = parseMidi(writeScore(score))
  expect(header).toMatchObject({ format: 0, ticksPerBeat: 480 })
  const starts = tracks[0]!.filter(({ type }) => type === 'noteOn')
  expect(starts).toHaveLength(score.notes.length)
  const ticks = tracks[0]!.reduce((sum, { deltaTime }) => sum + deltaTime, 0)
  const tempo = tracks[0]!.find((event) => event.type === 'setTempo') as { microsecondsPerBeat: number }
  expect(((ticks / 480) * tempo.microsecondsPerBeat) / 1e6).toBeCloseTo(120, 0)
})
