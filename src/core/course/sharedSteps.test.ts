import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { applyEdit } from '@/core/lesson/edits'
import { layoutLesson } from '@/core/lesson/layout'
import { newBed, newSound } from '@/core/lesson/newParts'
import { assertStorable } from '@/core/lesson/storable'
import { anyEdit, editFor, fullLesson, tried, type Pick } from '@/core/testing/anyEdit'
import { lessonOver, markAt, SONG, TAKE } from '@/core/testing/lessons'
import type { Lesson, SoundCue } from '@/core/lesson/document'
import { endsDocument, readEnds, type EndsDocument } from './endsDocument'
import { followShared, hasShared, stepsAtEnd, withEnds, withoutShared, withShared, type End } from './sharedSteps'

const bell = (id: string, anchor: SoundCue['anchor']): SoundCue => newSound(id, SONG, 1, anchor, 'effect')

/** Its first step has a jingle, a bell at a word and another after that; its second begins the lesson's music. */
function welcoming(): Lesson {
  const lesson = lessonOver([0, 4, 9, 15], false)
  const steps = lesson.steps.map((step) => ({ ...step, id: `w${step.id}` }))
  return {
    ...lesson,
    steps,
    marks: [markAt('word', 'ws0', TAKE, 2), markAt('other', 'ws1', TAKE, 6)],
    bedCues: [{ ...newBed('jingle', SONG, 'ws0'), last: 'ws0' }, newBed('music', SONG, 'ws1')],
    sounds: [
      bell('one', { kind: 'mark', mark: 'word', offset: 0 }),
      bell('two', { kind: 'sound', sound: 'one', offset: 1 }),
      bell('three', { kind: 'mark', mark: 'other', offset: 0 }),
    ],
  }
}

const welcome = stepsAtEnd(welcoming(), 'first', 1)
const other = lessonOver([0, 5, 10])

test('what hangs on the steps goes with them, and nothing else', () => {
  expect(welcome.steps.map(({ id }) => id)).toEqual(['ws0'])
  expect(welcome.bedCues.map(({ id }) => id)).toEqual(['jingle'])
  expect(welcome.sounds.map(({ id }) => id)).toEqual(['one', 'two'])
  expect(welcome.marks.map(({ id }) => id)).toEqual(['word'])
  expect(hasShared(welcoming(), 'first', welcome)).toBe(true)
})

test('music that goes on into a lesson ends with the steps in others', () => {
  for (const last of ['ws2', null]) {
    const lesson = { ...welcoming(), bedCues: [{ ...newBed('long', SONG, 'ws0'), last }] }
    const shared = stepsAtEnd(lesson, 'first', 2)
    expect(shared.bedCues[0]!.last).toBe('ws1')
    // Where they come from it goes on, and they are the same nevertheless.
    expect(hasShared(lesson, 'first', shared)).toBe(true)
  }
})

test('a lesson that begins and ends as its course does, and is as before when that goes again', () => {
  const closing = stepsAtEnd(welcoming(), 'last', 1)
  const lesson = withEnds(other, { first: welcome, last: closing })
  assertStorable(lesson)
  expect(lesson.steps.map(({ id }) => id)).toEqual(['ws0', 's0', 's1', 'ws2'])
  expect(hasShared(lesson, 'first', welcome)).toBe(true)
  expect(hasShared(lesson, 'last', closing)).toBe(true)
  const { beds, sounds } = layoutLesson(lesson)
  // The jingle, and then its own music where its own first step begins.
  expect(beds.map(({ cue }) => cue.id)).toEqual(['jingle', 'b'])
  expect(beds[1]!.start).toBeCloseTo(layoutLesson(lesson).steps[1]!.start, 6)
  expect(sounds.map(({ cue }) => cue.id)).toEqual(['one', 'two'])
  const without = withoutShared(withoutShared(lesson, welcome), closing)
  expect({ ...without, shelf: [] }).toEqual({ ...other, shelf: [] })
})

test('where music goes on into a lesson of its own, it stays there when the steps go, and is joined when they change', () => {
  for (const begins of [{ kind: 'step', step: 'ws0' } as const, { kind: 'mark', mark: 'word' } as const])
    for (const last of ['ws2', null]) {
      const long = { ...newBed('long', SONG, 'ws0'), begins, last }
      const lesson = { ...welcoming(), bedCues: [long] }
      const shared = stepsAtEnd(lesson, 'first', 1)
      const without = withoutShared(lesson, shared)
      assertStorable(without)
      expect(without.bedCues).toEqual([{ ...long, begins: { kind: 'step', step: 'ws1' } }])
      const renamed = { ...shared, steps: shared.steps.map((step) => ({ ...step, title: 'Good morning' })) }
      const followed = followShared(lesson, 'first', shared, renamed)
      assertStorable(followed)
      expect(followed.bedCues).toEqual([long])
      expect(hasShared(followed, 'first', renamed)).toBe(true)
    }
  // At the end nothing comes after it.
  const ending = { ...welcoming(), bedCues: [{ ...newBed('long', SONG, 'ws2'), last: null }] }
  expect(withoutShared(ending, stepsAtEnd(ending, 'last', 1)).bedCues).toEqual([])
})

test('when the course changes them, lessons follow that had them as they were; others keep their own', () => {
  const begun = withShared(other, 'first', welcome)
  const renamed = { ...welcome, steps: welcome.steps.map((step) => ({ ...step, title: 'Good morning' })) }
  const followed = followShared(begun, 'first', welcome, renamed)
  expect(followed.steps.map(({ title }) => title)).toEqual(['Good morning', 'Slide 1', 'Slide 2'])
  expect(followShared(followed, 'first', welcome, renamed)).toBe(followed)
  const own = applyEdit(begun, { name: 'renameStep', step: 'ws0', title: 'My own' })
  expect(followShared(own, 'first', welcome, renamed)).toBe(own)
  expect(followShared(own, 'first', welcome, null)).toBe(own)
  // Asked for in this lesson, they come in place of its own.
  expect(withShared(own, 'first', renamed).steps).toEqual(followed.steps)
  expect(followShared(followed, 'first', renamed, null).steps).toEqual(other.steps)
})

test('out of any lesson they take nothing along that plays or is heard in its own steps', () => {
  fc.assert(
    fc.property(
      fc.array(anyEdit, { minLength: 40, maxLength: 40 }),
      fc.constantFrom<End>('first', 'last'),
      fc.integer({ min: 1, max: 2 }),
      (picks, end, count) => {
        const lesson = editedByChance(picks)
        if (lesson.steps.length <= count) return
        const shared = stepsAtEnd(lesson, end, count)
        expect(hasShared(lesson, end, shared)).toBe(true)
        const without = withoutShared(lesson, shared)
        assertStorable(without)
        // A sound may hang on a word of theirs that another step says, too: it is theirs.
        const theirs = new Set([...shared.steps, ...shared.sounds].map(({ id }) => id))
        const own = heardInSteps(lesson).filter(([id]) => !theirs.has(id))
        expect(heardInSteps(without)).toEqual(own.map(([id, heard]) => [id, heard.filter((one) => !theirs.has(one))]))
        assertStorable(withShared(without, end, shared))
      },
    ),
    // The same lessons each time: in one of thousands a word is said twice, and what hangs on it is heard at the other place then.
    { numRuns: 150, seed: 1 },
  )
})

const editedByChance = (picks: readonly Pick[]): Lesson =>
  picks.reduce((lesson, pick, serial) => {
    const edit = editFor(lesson, pick, serial)
    return (edit && tried(lesson, edit)) ?? lesson
  }, fullLesson())

/** By step: the music that plays in it, and the sounds that begin in it. */
function heardInSteps(lesson: Lesson): [string, string[]][] {
  const { steps, beds, sounds } = layoutLesson(lesson)
  return steps.map(({ step, start, end }) => [
    step.id,
    [
      ...beds.filter((bed) => Math.min(bed.end, end) - Math.max(bed.start, start) > 0.1).map(({ cue }) => cue.id),
      ...sounds.filter((sound) => sound.start >= start && sound.start < end).map(({ cue }) => cue.id),
    ].sort(),
  ])
}

test('what is kept of them is opened as it was, also by way of an older format', () => {
  const ends = { first: welcome, last: null }
  const kept = JSON.parse(JSON.stringify(endsDocument(ends))) as EndsDocument
  expect(readEnds(kept)).toEqual(ends)
  const { narrations: _, ...older } = kept.first!
  expect(() => readEnds({ first: older, last: null })).toThrow()
  const { document } = JSON.parse(
    readFileSync(join(import.meta.dirname, '../lesson/fixtures/format2.json'), 'utf8'),
  ) as {
    document: { steps: { id: string }[] }
  }
  expect(readEnds({ first: document, last: null }).first!.steps.map(({ id }) => id)).toEqual(
    document.steps.map(({ id }) => id),
  )
})

test('where nobody had said so before, each lesson gets them, but for the one they come from', () => {
  expect(followShared(other, 'first', null, welcome).steps).toHaveLength(3)
  const source = welcoming()
  expect(followShared(source, 'first', null, welcome)).toBe(source)
})
