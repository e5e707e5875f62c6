import fc from 'fast-check'
import { seededRandom } from '@/core/random'
import { anyEdit, EDIT_NAMES, editFor, fullLesson, tried } from '@/core/testing/anyEdit'
import { documentSchema, type Lesson } from './document'
import type { Edit } from './edits'
import { hangingIn, hangingInStep, type Hanging } from './hanging'
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
        expectNothingLost(history.lesson, next.lesson, edit)
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
  const timeline = layoutLesson(lesson)
  // One look at all of it: a thousand small ones take a thousand times as long.
  expect(faultsOf(lesson, timeline)).toEqual([])
  expectLaidOrLoose(lesson, timeline)
}

/** What is wrong in a lesson's times and names, in words. */
function faultsOf(lesson: Lesson, timeline: ReturnType<typeof layoutLesson>): string[] {
  const ids = lesson.steps.flatMap((step) => [step.id, ...step.passages.map(({ id }) => id)])
  const marks = lesson.marks.map(({ id }) => id)
  const endOf = (spans: readonly { end: number }[], i: number) => spans[i]?.end ?? 0
  const { steps, pictures, passages } = timeline
  const isOff = (i: number) =>
    !borrows(lesson, i) && Math.abs(steps[i]!.end - steps[i]!.start - stepLength(steps[i]!.step, lesson.lengths)) > 1e-9
  return [
    ...(new Set(ids).size < ids.length ? ['two steps or passages of one name'] : []),
    ...(new Set(marks).size < marks.length ? ['two marks of one name'] : []),
    ...steps.flatMap(({ start }, i) => (start === endOf(steps, i - 1) ? [] : [`step ${i} does not follow`])),
    ...steps.flatMap((_, i) => (isOff(i) ? [`step ${i} is not as long as it should be`] : [])),
    ...(timeline.length === endOf(steps, steps.length - 1) ? [] : ['the lesson does not end with its last step']),
    // Pictures fill the lesson without a gap, and no two passages speak at once.
    ...pictures.flatMap(({ start }, i) => (start === endOf(pictures, i - 1) ? [] : [`a gap before picture ${i}`])),
    ...passages.flatMap(({ start }, i) =>
      i > 0 && start < endOf(passages, i - 1) - 1e-9 ? [`passage ${i} speaks with the one before`] : [],
    ),
  ]
}

function expectSameWhenStored(lesson: Lesson): void {
  const document = documentOf(lesson)
  expect(JSON.stringify(documentSchema.parse(document))).toBe(JSON.stringify(document))
  expect(documentOf(tell(readDocument(document), lesson.language))).toEqual(document)
}

/** Whatever hangs on something is there, once, in the lesson as it is seen and heard, or is told as loose; so is its end. */
function expectLaidOrLoose(lesson: Lesson, timeline: ReturnType<typeof layoutLesson>): void {
  const laid = laidIn(timeline)
  const loose = timeline.loose.map((one) =>
    one.kind === 'pin' ? `pin ${one.id} of ${one.step.id}` : `${one.kind} ${one.id}`,
  )
  const things = hangingIn(lesson)
  const told = things.map(nameOf).map((name) => [name, laid.has(name), loose.includes(name)])
  expect(told.filter(([, isLaid, isLoose]) => isLaid === isLoose)).toEqual([])
  // An end is where it was said to be, or told as lost.
  const untold = things.flatMap((thing) => {
    const { kind, id, ends } = thing
    const end = laid.get(nameOf(thing))
    if (ends === null || end === undefined || loose.includes(`${kind}-end ${id}`)) return []
    const wanted = ends.kind === 'step' ? timeline.steps.find(({ step }) => step.id === ends.step)?.end : undefined
    return ends.kind === 'step' && (wanted === undefined || end > wanted + 1e-9) ? [`${kind} ${id}`] : []
  })
  expect(untold).toEqual([])
}

/** A step and its copy hold pins of one name. */
const nameOf = ({ kind, id, step }: Hanging): string => (kind === 'pin' ? `pin ${id} of ${step}` : `${kind} ${id}`)

/** What is laid, with where it ends. A pin counts where its word is said while its recording is seen. */
function laidIn({ sounds, nudges, beds, layers, pictures }: ReturnType<typeof layoutLesson>): Map<string, number> {
  return new Map([
    ...sounds.map(({ cue, end }) => [`sound ${cue.id}`, end] as const),
    ...nudges.map(({ nudge, at }) => [`nudge ${nudge.id}`, at] as const),
    ...beds.map(({ cue, end }) => [`bed ${cue.id}`, end] as const),
    ...layers.map(({ layer, end }) => [`layer ${layer.id}`, end] as const),
    ...pictures.flatMap(({ step, further, picture, unsaid, end }) => [
      ...(further ? [[`picture ${further}`, end] as const] : []),
      ...(picture.kind === 'recording' ? picture.pins : [])
        .filter(({ id }) => !unsaid.includes(id))
        .map(({ id }) => [`pin ${id} of ${step.id}`, end] as const),
    ]),
  ])
}

/** These take something out because the author says so, or put back what was. */
const TAKES_OUT: Edit['name'][] = [
  'removeSounds',
  'removeNudges',
  'removePicture',
  'removeLayer',
  'removeBed',
  // A piece that is put where another one begins takes its place.
  'addBed',
  'setPicture',
  'changePicture',
  'restore',
]

function expectNothingLost(before: Lesson, after: Lesson, edit: Edit): void {
  if (TAKES_OUT.includes(edit.name)) return
  const there = new Set(hangingIn(after).map(({ kind, id }) => `${kind} ${id}`))
  const gone = new Set(edit.name === 'deleteSteps' ? edit.steps : [])
  // What stood in a step goes with it; an empty step that is joined goes with its picture, and that with its pins.
  const inGone = before.steps.filter(({ id }) => gone.has(id)).flatMap((step) => hangingInStep(step))
  const mayGo = new Set(inGone.map(({ kind, id }) => `${kind} ${id}`))
  const lost = hangingIn(before)
    .filter(({ kind }) => edit.name !== 'joinStep' || kind !== 'pin')
    .map(({ kind, id }) => `${kind} ${id}`)
    .filter((name) => !there.has(name) && !mayGo.has(name))
  expect([edit.name, lost]).toEqual([edit.name, []])
}

test('every kind of thing hangs on something in the lesson that is tried here', () => {
  const kinds = new Set(
    hangingIn(fullLesson()).map(({ kind, begins, ends }) => `${kind} on ${begins.kind}${ends ? ', ends' : ''}`),
  )
  expect([...kinds].sort()).toEqual([
    'bed on mark, ends',
    'bed on step, ends',
    'layer on mark, ends',
    'layer on step, ends',
    'nudge on mark',
    'nudge on step',
    'picture on mark',
    'pin on mark',
    'sound on mark',
    'sound on sound',
    'sound on step',
  ])
})
