import { lessonSchema, type Lesson, type Step } from './document'
import { DEFAULT_TARGETS, emptyLesson, newBed, newStep, newStill } from './newParts'
import { applyEdit, type Edit } from './edits'

const take = 'a'.repeat(64)
const deck = 'b'.repeat(64)
const song = 'c'.repeat(64)
const page = (n: number) => newStill(deck, n)

/** Slides over one long reading, cut at whole multiples of three seconds. */
function reading(count: number): Lesson {
  const steps = Array.from({ length: count }, (_, i): Step => ({
    ...newStep(`s${i}`, `Slide ${i + 1}`, page(i + 1)),
    script: `Sentence ${i} one. Sentence ${i} two.`,
    passages: [{ id: `p${i}`, media: take, from: i * 3, to: i * 3 + 3, pause: 0 }],
  }))
  return { ...emptyLesson('Knots'), steps, bedCues: [newBed('bed', song, 's0')] }
}
const edited = (lesson: Lesson, ...edits: Edit[]) => edits.reduce((now, edit) => applyEdit(now, edit), lesson)
const breakAt = (step: string, passage: string, at: number, scriptAt = 15): Edit => ({
  name: 'breakStep',
  step,
  passage,
  at,
  scriptAt,
  newPassage: `${passage}+`,
  newStep: `${step}+`,
})
const spoken = (lesson: Lesson) => lesson.steps.map((step) => step.passages.map(({ from, to }) => [from, to]))

test('breaking moves the words after the caret to the front of the next step', () => {
  const lesson = edited(reading(3), breakAt('s0', 'p0', 1.2))
  expect(spoken(lesson)).toEqual([[[0, 1.2]], [[1.2, 6]], [[6, 9]]])
  expect(lesson.steps.map((step) => step.script)).toEqual([
    'Sentence 0 one.',
    'Sentence 0 two. Sentence 1 one. Sentence 1 two.',
    'Sentence 2 one. Sentence 2 two.',
  ])
})

test('breaking in the last step makes a new one with the same picture, and joining takes it away again', () => {
  const before = reading(2)
  const broken = edited(before, breakAt('s1', 'p1', 4))
  expect(spoken(broken)).toEqual([[[0, 3]], [[3, 4]], [[4, 6]]])
  expect(broken.steps[2]!.picture).toEqual(page(2))
  expect(edited(broken, { name: 'joinStep', step: 's1+' })).toEqual(before)
})

test('joining keeps the picture as an empty step; joining the empty step removes it', () => {
  const joined = edited(reading(3), { name: 'joinStep', step: 's1' })
  expect(spoken(joined)).toEqual([[[0, 6]], [], [[6, 9]]])
  expect(edited(joined, { name: 'joinStep', step: 's1' }).steps.map(({ id }) => id)).toEqual(['s0', 's2'])
})

test('break, join and break again is the same as one break', () => {
  const once = edited(reading(3), { name: 'joinStep', step: 's1' }, breakAt('s0', 'p0', 3, 31))
  expect(spoken(once)).toEqual(spoken(reading(3)))
})

test('several steps move together and keep their order', () => {
  const ids = (lesson: Lesson) => lesson.steps.map(({ id }) => id).join(' ')
  const lesson = reading(5)
  expect(ids(edited(lesson, { name: 'moveSteps', steps: ['s0', 's3'], before: null }))).toBe('s1 s2 s4 s0 s3')
  expect(ids(edited(lesson, { name: 'moveSteps', steps: ['s3', 's4'], before: 's1' }))).toBe('s0 s3 s4 s1 s2')
  expect(ids(edited(lesson, { name: 'moveSteps', steps: ['s1', 's2'], before: 's2' }))).toBe('s0 s1 s2 s3 s4')
})

test('a bed whose step is deleted starts with the next one', () => {
  expect(edited(reading(3), { name: 'deleteSteps', steps: ['s0', 's1'] }).bedCues).toEqual([newBed('bed', song, 's2')])
})

test('impossible edits say so and change nothing', () => {
  const lesson = reading(2)
  expect(() => applyEdit(lesson, { name: 'joinStep', step: 's0' })).toThrow('nothing before it')
  expect(() => applyEdit(lesson, { name: 'renameStep', step: 'gone', title: '' })).toThrow('no longer')
  expect(() => applyEdit(lesson, breakAt('s0', 'p0', 0))).toThrow('Nothing is said before')
  expect(lesson).toEqual(reading(2))
})

test('defaults are valid', () => {
  expect(lessonSchema.parse(emptyLesson('x')).targets).toEqual(DEFAULT_TARGETS)
})
