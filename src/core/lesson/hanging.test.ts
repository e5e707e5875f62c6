import { checkOver } from '@/core/check/over'
import { mendOf } from '@/core/check/mends'
import { checkSounds } from '@/core/check/sounding'
import { chaptersOf } from '@/core/captions/chapters'
import { captionsWithin } from '@/core/delivery/part'
import { layEdges } from '@/core/picture/layEdges'
import { fullLesson } from '@/core/testing/anyEdit'
import { effectClips } from '@/core/mix/soundClips'
import type { Analysis } from '@/core/measure/analysis'
import { applyEdit, type Edit } from './edits'
import type { Lesson } from './document'
import { layoutLesson } from './layout'
import { LIMITS } from './limits'
import { newBed, newStep, newStill } from './newParts'

/** What hangs stays where it belongs whatever happens around it, or is told as loose. */

const edited = (lesson: Lesson, ...edits: Edit[]) => edits.reduce((now, edit) => applyEdit(now, edit), lesson)
const bedOf = (lesson: Lesson, id: string) => layoutLesson(lesson).beds.find(({ cue }) => cue.id === id)!
const looseIn = (lesson: Lesson) => layoutLesson(lesson).loose.map(({ kind, id }) => `${kind} ${id}`)
const song = 'f'.repeat(64)
const silent = () => undefined

/** A jingle under the fourth step alone. */
function withJingle(): Lesson {
  const lesson = fullLesson()
  return { ...lesson, bedCues: [{ ...newBed('jingle', song, 's3'), last: 's3' }] }
}

test('music that is to end with a step never plays to the end of the lesson because that step goes', () => {
  const lesson = withJingle()
  const length = ({ start, end }: { start: number; end: number }) => end - start
  const stays = length(bedOf(lesson, 'jingle'))
  const deleted = applyEdit(lesson, { name: 'deleteSteps', steps: ['s3'] })
  expect(length(bedOf(deleted, 'jingle'))).toBeCloseTo(stays)
  const joined = applyEdit(lesson, { name: 'joinStep', step: 's3' })
  expect(length(bedOf(joined, 'jingle'))).toBeLessThan(2 * stays)
  // It ends with a later step, which comes before it now.
  const longer = { ...lesson, bedCues: [{ ...newBed('jingle', song, 's3'), last: 's4' }] }
  const moved = applyEdit(longer, { name: 'moveSteps', steps: ['s4'], before: 's0' })
  expect(bedOf(moved, 'jingle').end).toBe(layoutLesson(moved).steps.find(({ step }) => step.id === 's3')!.end)
  expect(looseIn(moved)).toContain('bed-end jingle')
})

test('an end that has gone is a finding, which is mended by choosing to play on', () => {
  const lesson = withJingle()
  const gone = { ...lesson, bedCues: [{ ...lesson.bedCues[0]!, last: 'nowhere' }] }
  const finding = checkSounds(gone, layoutLesson(gone), silent).find(({ code }) => code === 'loose-bed-end')!
  const mended = edited(gone, ...mendOf(finding, gone)!.edits)
  expect([looseIn(mended), bedOf(mended, 'jingle').end]).toEqual([[], layoutLesson(mended).length])
})

test('what lies over a picture and has lost the word it ended with is told, and so mended', () => {
  const lesson = fullLesson()
  expect(looseIn(lesson)).toEqual([])
  // 'k-to' is said at 14 s of the reading.
  const cut = applyEdit(lesson, { name: 'trimPassage', passage: 'p4', from: 12, to: 13.6 })
  expect(looseIn(cut)).toEqual(['layer-end label', 'layer-end ring'])
  const timeline = layoutLesson(cut)
  const findings = checkSounds(cut, timeline, silent).filter(({ code }) => code === 'loose-layer-end')
  expect(findings.map(({ stepId, subject }) => [stepId, subject])).toEqual([
    ['s4', 'label'],
    ['s4', 'ring'],
  ])
  const mended = edited(cut, ...mendOf(findings[0]!, cut)!.edits)
  expect(looseIn(mended)).toEqual(['layer-end ring'])
  expect(checkOver(lesson, timeline)).toBeDefined()
})

test('another file of the same sound keeps every mark where it is, in every language', () => {
  const lesson = fullLesson()
  const [media, by] = [lesson.takes[0]!.media, '9'.repeat(64)]
  const before = layoutLesson(lesson)
  const swapped = applyEdit(lesson, { name: 'swapMedia', media, by })
  expect(swapped.marks).toEqual(
    lesson.marks.map((mark) => ({ ...mark, place: mark.place && { ...mark.place, media: by } })),
  )
  const after = layoutLesson(swapped)
  expect([after.loose, after.sounds.map(({ start }) => start)]).toEqual([[], before.sounds.map(({ start }) => start)])
})

test('with a step only what stands in it goes: points and music stay, loose', () => {
  const lesson = fullLesson()
  const both = { ...lesson, bedCues: [newBed('one', song, 's4'), newBed('two', song, 's5')] }
  const after = applyEdit(both, { name: 'deleteSteps', steps: ['s4'] })
  expect(after.bedCues.map(({ id }) => id)).toEqual(['one', 'two'])
  expect(after.nudges.map(({ id }) => id)).toEqual(['point', 'on-step'])
  expect(looseIn(after)).toEqual(expect.arrayContaining(['bed one', 'nudge point']))
})

test('a piece that is dragged onto another’s step changes places with it', () => {
  const lesson = { ...fullLesson(), bedCues: [newBed('one', song, 's1'), newBed('two', song, 's4')] }
  const after = applyEdit(lesson, { name: 'moveBed', cue: 'one', step: 's4' })
  expect(after.bedCues.map(({ id, begins }) => [id, begins])).toEqual([
    ['one', { kind: 'step', step: 's4' }],
    ['two', { kind: 'step', step: 's1' }],
  ])
})

test('a copy of a step has its takes and its gain points; takes of a deleted one belong to where they are heard, or go', () => {
  const lesson = fullLesson()
  const copied = applyEdit(lesson, { name: 'duplicateSteps', copies: [{ of: 's4', id: 'copy', passages: ['c0'] }] })
  expect(copied.takes.filter(({ step }) => step === 'copy')).toHaveLength(1)
  expect(copied.nudges).toHaveLength(lesson.nudges.length + 1)
  expect(looseIn(copied)).toEqual([])
  const gone = applyEdit(lesson, { name: 'deleteSteps', steps: ['s4'] })
  expect(gone.takes.some(({ step }) => step === 's4')).toBe(false)
  // Its words go on in the step before: so does the take.
  const joined = applyEdit({ ...lesson, steps: lesson.steps.map(samePicture) }, { name: 'joinStep', step: 's4' })
  expect(joined.takes.find(({ id }) => id === 't-s4')!.step).toBe('s3')
})
const samePicture = (step: Lesson['steps'][number]) => ({ ...step, picture: newStill('c'.repeat(64), 1) })

test('breaking the last step begins no second chapter, and no picture dissolves into itself', () => {
  const lesson = fullLesson()
  const last = { ...lesson.steps[5]!, chapter: { begins: true, title: 'Knots' } }
  const ready: Lesson = {
    ...lesson,
    steps: [...lesson.steps.slice(0, 5), last],
    edge: { kind: 'dissolve', length: 0.5 },
  }
  const made = { newPassage: 'x', newStep: 'y' }
  const broken = applyEdit(ready, { name: 'breakStep', step: 's5', passage: 'p5', at: 16.5, scriptAt: 16, ...made })
  const timeline = layoutLesson(broken)
  expect(chaptersOf(timeline).filter(({ title }) => title === 'Knots')).toHaveLength(1)
  const boundary = timeline.steps[6]!.start
  expect(layEdges(broken, timeline.steps, timeline.pictures).some((edge) => edge.boundary === boundary)).toBe(false)
  // Joining takes back what breaking did.
  expect(applyEdit(broken, { name: 'joinStep', step: 'y' }).steps).toEqual(ready.steps)
})

test('a step that becomes several by its scenes is cut where the lesson’s own rule says that words begin', () => {
  const lesson = fullLesson()
  const step = { ...lesson.steps[2]!, length: { kind: 'lesson' as const }, leadIn: 0 }
  const ready = {
    ...lesson,
    lengths: { leadIn: 1, tail: 0.5, atLeast: 1 },
    steps: lesson.steps.map((one) => (one.id === 's2' ? step : one)),
  }
  const picture = step.picture as Extract<typeof step.picture, { kind: 'recording' }>
  const parts = [
    { id: 'a', picture: { ...picture, to: 2, pins: [] }, at: 0, scriptAt: 0 },
    { id: 'b', picture: { ...picture, from: 2 }, at: 2, scriptAt: 16 },
  ]
  const after = applyEdit(ready, { name: 'splitRecording', step: 's2', parts })
  // Two seconds into the step its reading has been heard for one: it begins at 6 s of the file.
  expect(after.steps[2]!.passages).toEqual([expect.objectContaining({ from: 6, to: 7 })])
  expect(after.steps[3]!.passages).toEqual([expect.objectContaining({ from: 7, to: 9 })])
})

test('a sound that is longer than what is left of the lesson fades out with it, and is a finding', () => {
  const lesson = fullLesson()
  const [gull] = lesson.sounds.slice(-1)
  const long = { ...lesson, sounds: [{ ...gull!, to: 20, fadeOut: 1 }] }
  const timeline = layoutLesson(long)
  const [clip] = effectClips(timeline, () => ({}) as Analysis)
  expect((clip!.at + clip!.length) / 48000).toBeCloseTo(timeline.length, 3)
  expect(clip!.fadeOut).toBe(48000)
  expect(checkSounds(long, timeline, silent).map(({ code }) => code)).toContain('sound-cut-off')
})

test('a page with a very long title that is gone does not keep a new version of its deck out', () => {
  const title = 'Knots '.repeat(33).slice(0, LIMITS.nameCharacters)
  const deck = 'c'.repeat(64)
  const steps = [{ ...newStep('s0', title, newStill(deck, 1)), script: 'Said.' }]
  const now = { media: '8'.repeat(64), kind: 'deck' as const, title: '', source: '', licence: '', credit: '' }
  const lesson = { ...fullLesson(), steps, takes: [], marks: [], sounds: [], nudges: [], bedCues: [] }
  const pages = [{ old: 1, now: null, change: 'gone' as const }]
  const after = applyEdit(lesson, { name: 'replaceDeck', old: deck, now, pages, added: [] })
  expect(after.steps[0]!.picture.kind).toBe('card')
})

test('a short caption that is not cut stands in a part as it does in the whole', () => {
  const caption = { text: 'Ah.', lines: ['Ah.'], start: 2, end: 2.3 } as unknown as Parameters<
    typeof captionsWithin
  >[0][number]
  const part = { from: 0, to: 300, rate: 30 } as unknown as Parameters<typeof captionsWithin>[1]
  expect(captionsWithin([caption], part)).toHaveLength(1)
})
