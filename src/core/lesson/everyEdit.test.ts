import fc from 'fast-check'
import { seededRandom } from '@/core/random'
import { anyEdit, EDIT_NAMES, editFor, fullLesson, tried } from '@/core/testing/anyEdit'
import { documentSchema, type Lesson } from './document'
import type { Edit } from './edits'
import { doEdit, openHistory, redo, undo } from './history'
import { layoutLesson, stepLength } from './layout'
import { documentOf, tell } from './telling'
import { readDocument } from './upgrade'

/** Random edits of every kind, on a lesson in which something of every kind hangs on something. */

test('200 random edits of all kinds: all that hangs is laid or told as loose, nothing overlaps, undo is exact', () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { minLength: 200, maxLength: 200 }), (picks) => {
      let history = openHistory(fullLesson())
      const states = [JSON.stringify(history.lesson)]
      picks.forEach((pick, serial) => {
        const edit = editFor(history.lesson, pick, serial)
        if (!edit) return
        if (tried(history.lesson, edit) === null) return
        const next = doEdit(history, edit)
        if (next === history) return
        expectSound(next.lesson, serial % 10 === 0)
        expectNothingLost(history.lesson, next.lesson, edit.name)
        history = next
        states.push(JSON.stringify(history.lesson))
      })
      const last = states.length - 1
      for (let i = last; i >= 0; i--) {
        expect(JSON.stringify(history.lesson)).toBe(states[i])
        history = undo(history)
      }
      for (let i = 0; i < last; i++) history = redo(history)
      expect(JSON.stringify(history.lesson)).toBe(states[last])
    }),
    { numRuns: 12, endOnFailure: true },
  )
})

test('every kind of edit that is tried here can really be done', () => {
  const random = seededRandom(11)
  const whole = (most: number) => Math.floor(random() * most)
  const done = new Set<string>()
  let lesson = fullLesson()
  for (let i = 0; i < 60 * EDIT_NAMES.length && done.size < EDIT_NAMES.length; i++) {
    // A lesson that has been taken apart gives little to do.
    if (i % 400 === 0) lesson = fullLesson()
    const pick = { kind: i % EDIT_NAMES.length, a: whole(1000), b: whole(1000), t: random() }
    const edit = editFor(lesson, pick, i)
    const next = edit && tried(lesson, edit)
    if (!next || next === lesson) continue
    done.add(edit.name)
    lesson = next
  }
  expect(EDIT_NAMES.filter((name) => !done.has(name))).toEqual([])
})

/** Whether a step gives time to the one before it, or takes some of the next one's. */
const borrows = ({ steps }: Lesson, index: number) =>
  steps[index]!.length.kind === 'until-next' || steps[index - 1]?.length.kind === 'until-next'

/** What must hold in every lesson whatever was done to it. */
function expectSound(lesson: Lesson, andStorable: boolean): void {
  if (andStorable) expectSameWhenStored(lesson)
  const ids = lesson.steps.flatMap((step) => [step.id, ...step.passages.map(({ id }) => id)])
  expect(new Set(ids).size).toBe(ids.length)
  expect(new Set(lesson.marks.map(({ id }) => id)).size).toBe(lesson.marks.length)

  const timeline = layoutLesson(lesson)
  timeline.steps.forEach((span, i) => {
    expect(span.start).toBe(timeline.steps[i - 1]?.end ?? 0)
    if (!borrows(lesson, i)) expect(span.end - span.start).toBeCloseTo(stepLength(span.step, lesson.lengths), 9)
  })
  expect(timeline.length).toBe(timeline.steps.at(-1)?.end ?? 0)
  // Pictures fill the lesson without a gap, and no two passages speak at once.
  timeline.pictures.forEach((span, i) => expect(span.start).toBe(timeline.pictures[i - 1]?.end ?? 0))
  timeline.passages.forEach((span, i) => {
    const previous = timeline.passages[i - 1]
    if (previous) expect(span.start).toBeGreaterThanOrEqual(previous.end - 1e-9)
  })
  expectLaidOrLoose(lesson, timeline)
}

function expectSameWhenStored(lesson: Lesson): void {
  const document = documentOf(lesson)
  expect(JSON.stringify(documentSchema.parse(document))).toBe(JSON.stringify(document))
  expect(documentOf(tell(readDocument(document), lesson.language))).toEqual(document)
}

function expectLaidOrLoose(lesson: Lesson, timeline: ReturnType<typeof layoutLesson>): void {
  const loose = (kind: string) => timeline.loose.filter((one) => one.kind === kind).length
  expect(timeline.sounds.length + loose('sound')).toBe(lesson.sounds.length)
  expect(timeline.nudges.length + loose('nudge')).toBe(lesson.nudges.length)
  expect(timeline.beds.length + loose('bed')).toBe(lesson.bedCues.length)
  const further = lesson.steps.flatMap(({ more }) => more)
  const told = new Set(timeline.loose.map(({ id }) => id))
  const seen = new Set(timeline.pictures.map(({ picture }) => picture))
  for (const { id, picture } of further) expect(told.has(id) || seen.has(picture)).toBe(true)
  for (const { picture, step, missed, unsaid } of timeline.pictures) {
    if (picture.kind !== 'recording') continue
    for (const { id } of picture.pins) {
      const isSaid = !unsaid.includes(id)
      expect(isSaid || timeline.loose.some((one) => one.kind === 'pin' && one.id === id && one.step === step)).toBe(
        true,
      )
    }
    expect(missed.every((id) => !unsaid.includes(id))).toBe(true)
  }
}

/** These take something out because the author says so, or with the step it stood in. */
const TAKES_OUT: Edit['name'][] = [
  'deleteSteps',
  'removeSounds',
  'removeNudges',
  'removePicture',
  'removeBed',
  'addBed',
  'moveBed',
  'setBed',
  'setPicture',
  'changePicture',
  'restore',
]

function expectNothingLost(before: Lesson, after: Lesson, name: Edit['name']): void {
  if (TAKES_OUT.includes(name)) return
  const there = new Set(hanging(after))
  // An empty step that is joined goes with its picture, and that with its pins.
  const lost = hanging(before, name !== 'joinStep').filter((id) => !there.has(id))
  expect([name, lost]).toEqual([name, []])
}

const hanging = ({ sounds, nudges, steps }: Lesson, withPins = true): string[] => [
  ...[...sounds, ...nudges].map(({ id }) => id),
  ...steps.flatMap(({ more }) => more.map(({ id }) => id)),
  ...steps.flatMap(({ picture }) => (withPins && picture.kind === 'recording' ? picture.pins.map(({ id }) => id) : [])),
]
