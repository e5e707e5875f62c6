import { jest } from '@jest/globals'
import type { SoundCue, Take } from '@/core/lesson/document'
import { emptyLesson, newBed, newSound, newStep } from '@/core/lesson/newParts'
import { newLayer } from '@/core/lesson/layers'
import { layoutLesson } from '@/core/lesson/layout'
import type { MediaInfo } from '@/core/messages/media'
import { lessonOver, markAt, SONG, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { createLessonStore } from '../lesson/lessonStore'
import { copySelected, pasteAtCaret } from './caret'
import { pasteSounds, pasteSteps, readClipboard, soundsClip, stepsClip, wordsClip, writeClipboard } from './clipboard'

const BELL = 'b'.repeat(64)
const voice = speechLike([
  [-10, 2],
  [null, 0.6],
  [-12, 2],
  [null, 0.8],
])
const bank = soundBank({ [TAKE]: [voice] })
const take: Take = {
  id: 't',
  media: TAKE,
  step: 's0',
  from: 0,
  to: 5.4,
  name: 'Take 1',
  kind: 'recorded',
  script: 'Ease the line.',
  room: null,
  cleanUp: null,
  removed: false,
  retimed: [],
}
const item = { media: TAKE, title: 'Reading', kind: 'sound' as const, source: '', licence: 'own', credit: '' }
const info = { hash: TAKE, name: 'reading.wav', channels: 1, length: 5.4 } as unknown as MediaInfo

function open() {
  const lesson = { ...lessonOver([0, 2.3, 5.4], false), takes: [take], shelf: [item] }
  const store = createLessonStore(lesson, [info], (sentence) => {
    throw new Error(sentence)
  })
  store.setState({ analyses: new Map([[TAKE, bank.analysisOf(TAKE)!]]) })
  return store
}

/** A lesson with one silent step, as another window might have it. */
function another() {
  const lesson = { ...emptyLesson('Other'), steps: [newStep('o', 'Other', { kind: 'card', lines: ['Other'] })] }
  return createLessonStore(lesson, [], (sentence) => {
    throw new Error(sentence)
  })
}

test('words go into another lesson with the take they are said in', () => {
  const store = open()
  store.setState({ caret: { step: 's1', word: 1, anchor: { step: 's0', word: 0 } } })
  const clip = wordsClip(store.getState(), copySelected(store.getState())!)
  expect(clip.media).toEqual([info])
  const other = another()
  const edit = pasteAtCaret(other.getState(), clip.words, clip)!
  other.getState().edit(edit)
  const { lesson } = other.getState().history
  expect(lesson.steps[0]!.passages.map(({ media }) => media)).toEqual([TAKE, TAKE])
  expect(lesson.takes).toMatchObject([{ media: TAKE, step: 'o', script: take.script }])
  expect(lesson.shelf).toEqual([item])
})

test('words put back into their own lesson bring nothing a second time', () => {
  const store = open()
  store.setState({ caret: { step: 's0', word: 1, anchor: { step: 's0', word: 0 } } })
  const clip = wordsClip(store.getState(), copySelected(store.getState())!)
  store.setState({ caret: { step: 's1', word: 0 } })
  store.getState().edit(pasteAtCaret(store.getState(), clip.words, clip)!)
  const { lesson } = store.getState().history
  expect(lesson.steps[1]!.passages).toHaveLength(2)
  expect([lesson.takes.length, lesson.shelf.length]).toEqual([1, 1])
})

test('steps come with new ids, their takes hung on the copies', () => {
  const store = open()
  const clip = stepsClip(store.getState(), ['s0'])!
  const other = another()
  other.getState().edit(...pasteSteps(other.getState(), clip))
  const { steps, takes } = other.getState().history.lesson
  expect(steps.map(({ title }) => title)).toEqual(['Other', 'Slide 1'])
  expect(steps[1]!.id).not.toBe('s0')
  expect(takes).toMatchObject([{ step: steps[1]!.id, media: TAKE }])
  expect(stepsClip(store.getState(), [])).toBeNull()
})

test('sounds on the words of copied steps come along, and music that begins and ends in them', () => {
  const store = open()
  store.getState().edit(
    { name: 'placeMarks', marks: [markAt('m', 's0', TAKE, 1)] },
    {
      name: 'addSounds',
      sounds: [
        newSound('one', BELL, 1, { kind: 'mark', mark: 'm', offset: 0.1 }, 'effect'),
        newSound('two', BELL, 1, { kind: 'sound', sound: 'one', offset: 2 }, 'effect'),
        newSound('far', BELL, 1, { kind: 'step', step: 's1', offset: 0 }, 'effect'),
      ],
    },
    { name: 'addBed', cue: { ...newBed('jingle', SONG, 's0'), last: 's0' } },
    { name: 'addBed', cue: newBed('long', SONG, 's1') },
  )
  const other = another()
  other.getState().edit(...pasteSteps(other.getState(), stepsClip(store.getState(), ['s0'])!))
  const { lesson } = other.getState().history
  const { sounds, beds, loose, steps } = layoutLesson(lesson)
  const start = steps[1]!.start - layoutLesson(store.getState().history.lesson).steps[0]!.start
  const before = layoutLesson(store.getState().history.lesson).sounds.filter(({ cue }) => cue.id !== 'far')
  expect(sounds.map((one) => one.start)).toEqual(before.map((one) => expect.closeTo(one.start + start, 6)))
  expect(beds.map(({ cue }) => [cue.media, cue.last])).toEqual([[SONG, steps[1]!.step.id]])
  expect(loose).toEqual([])
  // In their own lesson they are there twice, under names of their own.
  store.getState().edit(...pasteSteps(store.getState(), stepsClip(store.getState(), ['s0'])!))
  const twice = store.getState().history.lesson
  expect(new Set(twice.sounds.map(({ id }) => id)).size).toBe(5)
  expect(layoutLesson(twice).loose).toEqual([])
})

test('sounds stay as far apart as they were, whatever they hung on', () => {
  const store = open()
  const at = (step: string, offset: number): SoundCue =>
    newSound(`${step}-${offset}`, BELL, 1, { kind: 'step', step, offset }, 'effect')
  store.getState().edit({ name: 'addSounds', sounds: [at('s0', 0.5), at('s1', 0.25)] })
  const before = layoutLesson(store.getState().history.lesson).sounds.map(({ start }) => start)
  const clip = soundsClip(
    store.getState(),
    store.getState().history.lesson.sounds.map(({ id }) => id),
  )!
  const other = another()
  other.getState().edit(...pasteSounds(other.getState(), clip))
  const pasted = layoutLesson(other.getState().history.lesson).sounds.map(({ start }) => start)
  expect(pasted[0]).toBeCloseTo(0, 9)
  expect(pasted[1]! - pasted[0]!).toBeCloseTo(before[1]! - before[0]!, 9)
  expect(soundsClip(store.getState(), [])).toBeNull()
  other.setState({ caret: null })
  expect(pasteSounds(other.getState(), clip)).toEqual([])
})

test('pasted steps have further pictures and layers of their own: nothing in a lesson is there twice under one name', () => {
  const store = open()
  const [step] = store.getState().history.lesson.steps
  store.getState().edit({ name: 'addLayers', step: step!.id, layers: [newLayer('ring', 'ring')] })
  store.getState().edit({ name: 'addPicture', step: step!.id, id: 'more', picture: step!.picture, mark: 'm' })
  store.setState({ caret: { step: step!.id, word: 0 } })
  store.getState().edit(...pasteSteps(store.getState(), stepsClip(store.getState(), [step!.id])!))
  const { steps } = store.getState().history.lesson
  const ids = steps.flatMap(({ layers, more, passages }) => [...layers, ...more, ...passages].map(({ id }) => id))
  expect(steps.flatMap(({ layers }) => layers)).toHaveLength(2)
  expect(new Set(ids).size).toBe(ids.length)
})

describe('where copies are kept', () => {
  const kept = new Map<string, string>()
  let isFull = false
  beforeAll(() => {
    const setItem = (key: string, value: string) => {
      if (isFull) throw new DOMException('full', 'QuotaExceededError')
      kept.set(key, value)
    }
    Object.assign(globalThis, { localStorage: { getItem: (key: string) => kept.get(key) ?? null, setItem } })
    jest.spyOn(console, 'error').mockImplementation(() => {})
  })
  afterAll(() => {
    Reflect.deleteProperty(globalThis, 'localStorage')
    jest.restoreAllMocks()
  })

  test('what the browser has no room for can be pasted in this page all the same, until something newer was copied', () => {
    const clip = stepsClip(open().getState(), ['s0'])!
    isFull = true
    writeClipboard(clip)
    expect([kept.size, readClipboard()]).toEqual([0, clip])
    isFull = false
    const other = stepsClip(open().getState(), ['s1'])!
    writeClipboard(other)
    // Other pages of this browser have it, too.
    expect(JSON.parse([...kept.values()].join())).toMatchObject({ kind: 'steps', steps: [{ id: 's1' }] })
    expect(readClipboard()).not.toEqual(clip)
  })
})
