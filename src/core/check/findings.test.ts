import type { Lesson } from '@/core/lesson/document'
import { newStep, newStill } from '@/core/lesson/newParts'
import { shelfItem } from '@/core/lesson/fromFile'
import { newLayer, type Layer } from '@/core/lesson/layers'
import { layoutLesson } from '@/core/lesson/layout'
import { newTake } from '@/core/lesson/takes'
import type { MediaInfo } from '@/core/messages/media'
import { planMix } from '@/core/mix/plan'
import { DECK, lessonOver, musicLike, SONG, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { applyEdit } from '@/core/lesson/edits'
import { checkLesson } from './findings'
import { mendOf } from './mends'

const voice = speechLike([
  [null, 0.3],
  [-10, 4],
  [null, 0.5],
  [-12, 4],
  [null, 0.3],
])
const bank = soundBank({ [TAKE]: [voice], [SONG]: [musicLike(12, -10)] })
const info = (hash: string, part: Partial<MediaInfo> = {}): MediaInfo => ({
  hash,
  kind: 'sound',
  name: 'Song.mp3',
  extension: 'mp3',
  bytes: 1,
  length: 12,
  channels: 1,
  pages: [],
  texts: [],
  notes: [],
  hidden: [],
  darkPages: [],
  labels: [],
  soundTracks: [],
  soundTrack: 0,
  lastPicture: null,
  sides: null,
  hum: null,
  note: null,
  ...part,
})

function check(lesson: Lesson, from = bank, mediaOf: (hash: string) => MediaInfo | undefined = (hash) => info(hash)) {
  const timeline = layoutLesson(lesson)
  return checkLesson(lesson, timeline, planMix(lesson, timeline, from.analysisOf), from.analysisOf, mediaOf)
}
const codes = (lesson: Lesson, from = bank) => check(lesson, from).map(({ code }) => code)
const good = () => lessonOver([0, 4.5, 9.1])

test('a good lesson has no findings', () => {
  expect(check(good())).toEqual([])
})

test('an empty lesson says that there is nothing', () => {
  expect(check({ ...good(), steps: [], bedCues: [] })).toMatchObject([{ severity: 'fault', code: 'no-steps' }])
})

test('words that run past a fixed picture are a fault of that step', () => {
  const lesson = good()
  lesson.steps[1]!.length = { kind: 'fixed', length: 3 }
  expect(check(lesson)).toMatchObject([
    { severity: 'fault', code: 'words-run-over', stepId: 's1', at: 4.5, text: expect.stringContaining('1.6 s') },
  ])
})

test('a picture that flashes by', () => {
  const lesson = good()
  lesson.steps.push({
    ...newStep('x', 'Flash', { kind: 'card', lines: ['!'] }),
    length: { kind: 'fixed', length: 0.4 },
  })
  expect(codes(lesson)).toEqual(['flashing-picture'])
})

test('a picture that stands for minutes, unless something comes into it', () => {
  const lesson = { ...good(), bedCues: [] }
  lesson.steps[0]!.length = { kind: 'fixed', length: 300 }
  expect(check(lesson)).toMatchObject([{ severity: 'hint', code: 'long-picture', stepId: 's0' }])
  lesson.steps[0]!.layers = [{ ...newLayer('l', 'label'), text: 'Slack water' } as Layer]
  expect(codes(lesson)).not.toContain('long-picture')
})

test('a voice that was recorded much too softly, once however often it is heard', () => {
  const soft = soundBank({ [TAKE]: [voice.map((value) => value * 0.006)], [SONG]: [musicLike(12, -10)] })
  expect(codes({ ...good(), bedCues: [] }, soft)).toEqual(['soft-voice'])
})

test('a voice beside which the mains hum, until clean-up takes that out', () => {
  const humming = (hash: string) => info(hash, hash === TAKE ? { hum: { at: 50, multiples: [1, 2], level: -40 } } : {})
  const lesson: Lesson = { ...good(), bedCues: [] }
  const found = check(lesson, bank, humming)
  expect(found).toMatchObject([{ severity: 'warning', code: 'hum', subject: TAKE, at: 0 }])
  const mended = mendOf(found[0]!, lesson)!.edits.reduce((now, edit) => applyEdit(now, edit), lesson)
  expect(check(mended, bank, humming)).toEqual([])
})

test('hum is taken out of the take that has it, and the others stay as they are', () => {
  const lesson: Lesson = { ...good(), bedCues: [] }
  const [step] = lesson.steps
  lesson.takes = [newTake('t', TAKE, step!, step!.passages[0]!, 'recorded')]
  const hum = { severity: 'warning', code: 'hum', stepId: step!.id, at: 0, subject: TAKE, text: '' } as const
  const mended = mendOf(hum, lesson)!.edits.reduce((now, edit) => applyEdit(now, edit), lesson)
  expect(mended.takes[0]!.cleanUp!.hiss.on).toBe(true)
  expect(mended.cleanUp).toEqual(lesson.cleanUp)
})

test('music so near that the words are hard to follow', () => {
  const lesson = good()
  lesson.targets.clearance = 3
  expect(codes(lesson)).toContain('near-music')
  expect(codes({ ...lesson, bedCues: [] })).toEqual([])
})

test('a script that nobody reads, and silence where words should be', () => {
  const lesson = good()
  lesson.steps.push({ ...newStep('x', 'Unread', { kind: 'card', lines: ['!'] }), script: 'To be said.' })
  lesson.steps.push({
    ...newStep('y', 'Dumb', { kind: 'card', lines: ['!'] }),
    passages: [{ id: 'q', media: TAKE, from: 8.9, to: 9.1, pause: 0 }],
  })
  expect(codes(lesson)).toEqual(expect.arrayContaining(['script-without-voice', 'only-silence']))
})

test('clipped peaks in what is used', () => {
  const clipped = voice.map((value) => Math.max(-1, Math.min(1, value * 20)))
  expect(codes(good(), soundBank({ [TAKE]: [clipped], [SONG]: [musicLike(12, -10)] }))).toContain('clipped-take')
  expect(codes(good())).not.toContain('clipped-take')
  // As loud as can be, but round: a limiter was at work, and nothing is clipped.
  const peak = voice.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
  const full = voice.map((value) => value / peak)
  for (let i = 24_000; i < full.length; i += 24_000) full[i] = 1
  expect(codes(good(), soundBank({ [TAKE]: [full], [SONG]: [musicLike(12, -10)] }))).not.toContain('clipped-take')
})

test('missing files, files that were cut off, and music without a licence', () => {
  const lesson = {
    ...good(),
    shelf: [
      { ...shelfItem(info(SONG)), title: 'Song' },
      { ...shelfItem(info(TAKE)), title: 'Take' },
    ],
  }
  const found = check(lesson, bank, (hash) =>
    hash === SONG ? undefined : info(hash, { note: 'This file is cut off.' }),
  )
  expect(found.map(({ code }) => code)).toEqual(['missing-media', 'cut-off-file', 'licence-unknown'])
})

test('music that can not be held in the corridor is found where it happens', () => {
  // Twelve decibels of gain are not enough for a bed that is 40 dB too soft for two sentences.
  const song = musicLike(12, -50)
  const found = check(good(), soundBank({ [TAKE]: [voice], [SONG]: [song] }))
  expect(found.map(({ code }) => code)).toContain('bed-lost')
  expect(found.every(({ code }) => code === 'bed-lost')).toBe(true)
  // One a step, however many sentences it has.
  expect(new Set(found.map(({ stepId }) => stepId)).size).toBe(found.length)
})

test('a picture over which nothing is said while the voice was laid elsewhere', () => {
  const lesson = good()
  const silent = newStep('x', 'Left out', newStill(DECK, 9))
  lesson.steps.splice(1, 0, silent)
  expect(check(lesson)).toMatchObject([{ severity: 'warning', code: 'nothing-said', stepId: 'x' }])
  // A title before the first word, and a last picture, are nothing to wonder about.
  const framed = { ...good(), steps: [{ ...silent, id: 'title' }, ...good().steps, { ...silent, id: 'end' }] }
  expect(codes({ ...framed, bedCues: [] })).toEqual([])
})

test('a file that is missing is a fault, also of a take that is not on the shelf', () => {
  const found = check(good(), bank, (hash) => (hash === TAKE ? undefined : info(hash)))
  expect(found).toMatchObject([{ severity: 'fault', code: 'missing-media' }])
})
