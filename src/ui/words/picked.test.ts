import type { SoundCue } from '@/core/lesson/document'
import { newBed, newSound } from '@/core/lesson/newParts'
import { nudgeAt } from '@/core/bed/nudges'
import { lessonOver, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { createLessonStore, timelineOf, type LessonState } from '../lesson/lessonStore'
import { bedInStep } from './bedInStep'
import { pauseAtCaret } from './caret'
import { takeOut } from './hang'
import { hangOn, moveThing, nextPicked, thingPicked } from './picked'

/** Two phrases in the first step, one in each of the others. */
const voice = speechLike([
  [null, 0.5],
  [-10, 2],
  [null, 0.6],
  [-12, 2],
  [null, 0.6],
  [-10, 2],
  [null, 0.5],
])
const bank = soundBank({ [TAKE]: [voice] })
const SOUND = 'd'.repeat(64)

function open(breaks = [0, 5.4, 8.2]) {
  const lesson = lessonOver(breaks, false)
  const sound: SoundCue = {
    ...newSound('any', SOUND, 1, { kind: 'step', step: 's1', offset: 0.4 }, 'effect'),
    id: 'bell',
  }
  const store = createLessonStore(
    { ...lesson, sounds: [sound], bedCues: [newBed('bed', SOUND, 's0')] },
    [],
    (sentence) => {
      throw new Error(sentence)
    },
  )
  store.setState({ analyses: new Map([[TAKE, bank.analysisOf(TAKE)!]]) })
  return { state: store.getState, store }
}
const bell = (state: LessonState) => thingPicked(state.history.lesson, { kind: 'sound', id: 'bell' })!
const startOf = (state: LessonState) => timelineOf(state.history.lesson).sounds[0]!.start
const done = (state: () => LessonState, edits: ReturnType<typeof hangOn>) => {
  if (typeof edits === 'string') throw new Error(edits)
  state().edit(...edits)
}

test('a sound hung on a phrase begins with it, goes with arrows by moments and phrases, and can be taken out', () => {
  const { state } = open()
  done(state, hangOn(state(), bell(state()), { step: 's0', word: 1 }))
  const second = startOf(state())
  expect(second).toBeGreaterThan(3)
  expect(second).toBeLessThan(3.3)
  done(state, moveThing(state(), bell(state()), -1, 'moment'))
  expect(startOf(state())).toBeCloseTo(second - 0.1)
  done(state, moveThing(state(), bell(state()), -1, 'word'))
  expect(startOf(state())).toBeLessThan(0.7)
  state().edit(...takeOut(bell(state())))
  expect(state().history.lesson.sounds).toEqual([])
  expect(thingPicked(state().history.lesson, { kind: 'sound', id: 'bell' })).toBeNull()
})

test('music hung on the first phrase of a step begins with the step', () => {
  const { state } = open()
  const music = () => thingPicked(state().history.lesson, { kind: 'bed', id: 'bed' })!
  done(state, hangOn(state(), music(), { step: 's0', word: 1 }))
  expect(state().history.lesson.bedCues[0]!.begins.kind).toBe('mark')
  done(state, hangOn(state(), music(), { step: 's1', word: 0 }))
  expect(state().history.lesson.bedCues[0]!.begins).toEqual({ kind: 'step', step: 's1' })
})

test('what is picked next follows lesson time and begins anew at the end', () => {
  const { state } = open()
  expect(nextPicked(state())).toEqual({ kind: 'bed', id: 'bed' })
  state().pick({ kind: 'bed', id: 'bed' })
  expect(nextPicked(state())).toEqual({ kind: 'sound', id: 'bell' })
  state().pick({ kind: 'sound', id: 'bell' })
  expect(nextPicked(state())).toEqual({ kind: 'bed', id: 'bed' })
  state().select(['s1'])
  expect(state().picked).toBeNull()
})

test('the music of one step goes down as a whole, and the steps around it stay as they are', () => {
  const { state } = open([0, 2.8, 5.4, 8.2])
  state().select(['s1'], { step: 's1', word: 0 })
  done(state, bedInStep(state(), -3))
  done(state, bedInStep(state(), -3))
  const { steps, nudges } = timelineOf(state().history.lesson)
  const [before, own, after] = steps as [(typeof steps)[0], (typeof steps)[0], (typeof steps)[0]]
  expect(nudges).toHaveLength(4)
  expect(nudgeAt(nudges, (own.start + own.end) / 2)).toBeCloseTo(-6)
  expect(nudgeAt(nudges, (before.start + before.end) / 2)).toBe(0)
  expect(nudgeAt(nudges, (after.start + after.end) / 2)).toBe(0)
  // The step becomes longer: the plateau with it.
  state().edit({ name: 'setTail', step: 's1', tail: 5 })
  const longer = timelineOf(state().history.lesson)
  expect(nudgeAt(longer.nudges, longer.steps[1]!.end - 1.5)).toBeCloseTo(-6)
})

test('a pause at the caret grows, and shrinks again to what the take itself has, and further', () => {
  const { state } = open()
  state().select(['s0'], { step: 's0', word: 1 })
  const start = () => timelineOf(state().history.lesson).steps[1]!.start
  const before = start()
  const push = (by: number) => {
    const edit = pauseAtCaret(state(), by)
    if (typeof edit === 'string') return edit
    state().edit(edit)
    return null
  }
  push(0.25)
  push(0.25)
  expect(start()).toBeCloseTo(before + 0.5)
  push(-0.25)
  push(-0.25)
  expect(start()).toBeCloseTo(before)
  push(-0.25)
  expect(start()).toBeCloseTo(before - 0.21)
  push(-0.25)
  expect(start()).toBeCloseTo(before - 0.46, 1)
  expect(push(-0.25)).toBeNull()
  expect(push(-0.25)).toMatch(/no pause before this word/)
  state().select(['s1'], { step: 's1', word: 0 })
  expect(push(-0.25)).toMatch(/no pause before this word/)
})
