import type { Lesson, SoundCue } from '@/core/lesson/document'
import { newRecording, newStep } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { lessonOver, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { noise, tones } from '@/core/testing/signals'
import { HOUSE_RATE } from '@/core/units'
import { effectClips, recordingClips, secondVoiceClips } from './soundClips'
import { voiceClips } from './voiceClips'

const [BELL, GUEST, FILM] = ['5', '6', '7'].map((digit) => digit.repeat(64)) as [string, string, string]
/** Hiss with a moment of silence every one and a half seconds. */
const film = noise(30 * HOUSE_RATE, 2).map((value, i) => (i % (1.5 * HOUSE_RATE) < 2400 ? 0 : value * 0.1))
const bank = soundBank({
  [TAKE]: [speechLike([[-12, 10]])],
  [BELL]: [tones([[-6, 3]])],
  [GUEST]: [speechLike([[-24, 6]], 8)],
  [FILM]: [film],
})

const cue = (part: Partial<SoundCue>): SoundCue => ({
  id: 'c',
  media: BELL,
  from: 0,
  to: 3,
  track: 'effect',
  anchor: { kind: 'step', step: 's0', offset: 1 },
  gain: 0,
  fadeIn: 0,
  fadeOut: 0,
  meant: false,
  caption: '',
  ...part,
})
const timelineWith = (sounds: SoundCue[]) => layoutLesson({ ...lessonOver([0, 5, 10], false), sounds })

test('an effect lies at its place, at its level, without a click at its ends', () => {
  const [clip] = effectClips(timelineWith([cue({ from: 0.5, to: 2.5, gain: -9, fadeOut: 1 })]), bank.analysisOf)
  expect(clip).toMatchObject({
    media: BELL,
    from: 0.5 * HOUSE_RATE,
    at: HOUSE_RATE,
    length: 2 * HOUSE_RATE,
    speed: 1,
    gain: -9,
    fadeIn: 384,
    fadeOut: HOUSE_RATE,
  })
})

test('a second voice is made as loud as the first, whatever its recording is', () => {
  const timeline = timelineWith([cue({ media: GUEST, to: 6, track: 'voice' })])
  const [guest] = secondVoiceClips(timeline, bank.analysisOf)
  const [first] = voiceClips(timeline, bank.analysisOf)
  // It was recorded twelve decibels softer.
  expect(guest!.gain - first!.gain).toBeCloseTo(12, 0)
  expect(effectClips(timeline, bank.analysisOf)).toEqual([])
})

function recorded(part: object): Lesson {
  const step = newStep('r', 'Film', { ...newRecording(FILM, 30), gain: 0, ...part })
  return { ...lessonOver([0, 5], false), steps: [{ ...step, length: { kind: 'fixed', length: 40 } }] }
}
const filmClips = (part: object) => recordingClips(layoutLesson(recorded(part)), bank.analysisOf)

test('at its own speed a recording is heard as it is, in one piece', () => {
  expect(filmClips({})).toMatchObject([{ from: 0, at: 0, length: 30 * HOUSE_RATE, speed: 1 }])
  expect(filmClips({ gain: null })).toEqual([])
})

test('at another speed it is stretched in parts that meet where it is quiet', () => {
  const parts = filmClips({ speed: 1.5 })
  expect(parts.length).toBeGreaterThan(8)
  expect(parts[0]).toMatchObject({ from: 0, at: 0 })
  parts.slice(1).forEach((clip, i) => {
    const before = parts[i]!
    // One begins where the other has come to, and they overlap for their fades.
    expect(Math.abs(clip.from - (before.from + (clip.at - before.at) * 1.5))).toBeLessThan(3)
    expect(before.at + before.length - clip.at).toBe(384)
    const silence = clip.from % (1.5 * HOUSE_RATE)
    expect(silence).toBeLessThan(2400)
  })
  const last = parts.at(-1)!
  expect(Math.abs(last.at + last.length - 20 * HOUSE_RATE)).toBeLessThan(3)
})

test('while the picture stands still there is no sound', () => {
  const ends = filmClips({}).map(({ at, length }) => at + length)
  expect(Math.max(...ends)).toBe(30 * HOUSE_RATE)
})
