import fc from 'fast-check'
import type { Lesson, Step } from './document'
import { emptyLesson, newBed, newStep, newStill } from './newParts'
import { applyEdit, type Edit } from './edits'
import { mergeLessons, sharing, type Side } from './merge'

const take = 'a'.repeat(64)
const deck = 'b'.repeat(64)
const song = 'c'.repeat(64)

function lesson(count = 6): Lesson {
  const steps = Array.from({ length: count }, (_, i): Step => ({
    ...newStep(`s${i}`, `Slide ${i + 1}`, newStill(deck, i + 1)),
    script: `Sentence ${i} one. Sentence ${i} two.`,
    passages: [{ id: `p${i}`, media: take, from: i * 3, to: i * 3 + 3, pause: 0 }],
  }))
  return { ...emptyLesson('Knots'), steps, bedCues: [newBed('bed', song, 's0')] }
}
const edited = (from: Lesson, ...edits: Edit[]) => edits.reduce((now, edit) => applyEdit(now, edit), from)
const retitle = (step: string, title: string): Edit => ({ name: 'renameStep', step, title })
const rewrite = (step: string, script: string): Edit => ({ name: 'setScript', step, script })
const breakStep = (i: number): Edit => ({
  name: 'breakStep',
  step: `s${i}`,
  passage: `p${i}`,
  at: i * 3 + 1.2,
  scriptAt: 15,
  newPassage: `p${i}+`,
  newStep: `s${i}+`,
})
const merged = (mine: Edit[], theirs: Edit[], side?: Side) => {
  const base = lesson()
  const all = { base, mine: edited(base, ...mine), theirs: edited(base, ...theirs) }
  return { ...mergeLessons(all, side && (() => side)), all }
}
const titles = ({ steps }: Lesson) => steps.map(({ title }) => title)
const spoken = ({ steps }: Lesson) => steps.flatMap(({ passages }) => passages.map(({ from, to }) => [from, to]))

test('what was changed in different steps is put together without a question', () => {
  const { lesson: both, clashes } = merged(
    [retitle('s1', 'Bowline'), breakStep(3), { name: 'setTarget', target: 'clearance', value: 14 }],
    [rewrite('s0', 'Other words.')],
  )
  expect(clashes).toEqual([])
  expect(titles(both)[1]).toBe('Bowline')
  expect(both.steps[0]!.script).toBe('Other words.')
  expect(both.targets.clearance).toBe(14)
  expect(both.steps[3]!.passages).toEqual([{ id: 'p3', media: take, from: 9, to: 10.2, pause: 0 }])
})

test('different things of one step are put together, too', () => {
  const { lesson: both, clashes } = merged([retitle('s2', 'Sheet bend')], [rewrite('s2', 'Other words.')])
  expect(clashes).toEqual([])
  expect(both.steps[2]).toMatchObject({ title: 'Sheet bend', script: 'Other words.' })
})

test('the same place changed on both sides is asked about, and taken from the side that is chosen', () => {
  const edits: [Edit[], Edit[]] = [[retitle('s2', 'Here')], [retitle('s2', 'There')]]
  const { lesson: mine, clashes } = merged(...edits, 'mine')
  expect(clashes).toEqual([{ key: 'step title/s2', kind: 'step title', step: 's2', mine: 'Here', theirs: 'There' }])
  expect(titles(mine)[2]).toBe('Here')
  expect(titles(merged(...edits, 'theirs').lesson)[2]).toBe('There')
})

test('equal changes on both sides are one change', () => {
  const { lesson: both, clashes, all } = merged([retitle('s2', 'Same')], [retitle('s2', 'Same')])
  expect(clashes).toEqual([])
  expect(both).toEqual(all.mine)
})

test('steps that were moved, put in and taken out on different sides', () => {
  const card = newStep('card', 'Card', { kind: 'card', lines: ['Card'] })
  const { lesson: both, clashes } = merged(
    [{ name: 'moveSteps', steps: ['s5'], before: 's0' }],
    [
      { name: 'addSteps', before: 's3', steps: [card] },
      { name: 'deleteSteps', steps: ['s1'] },
    ],
  )
  expect(clashes).toEqual([])
  expect(both.steps.map(({ id }) => id)).toEqual(['s5', 's0', 's2', 'card', 's3', 's4'])
})

test('a step taken out here and changed there is asked about', () => {
  const edits: [Edit[], Edit[]] = [[{ name: 'deleteSteps', steps: ['s1'] }], [rewrite('s1', 'Other words.')]]
  const { lesson: mine, clashes } = merged(...edits, 'mine')
  expect(clashes.map(({ key }) => key)).toEqual(['steps/s1'])
  expect(mine.steps).toHaveLength(5)
  const theirs = merged(...edits, 'theirs').lesson
  expect(theirs.steps[1]).toMatchObject({ id: 's1', script: 'Other words.' })
})

test.each(['mine', 'theirs'] as const)(
  'words that moved into a step that was changed elsewhere are neither lost nor said twice (%s)',
  (side) => {
    const moves = [breakStep(2)]
    const changes: Edit[] = [rewrite('s3', 'Other words.')]
    const { lesson: both, clashes } = merged(moves, changes, side)
    expect(clashes.map(({ kind }) => kind)).toEqual(['words'])
    const length = spoken(both).reduce((sum, [from, to]) => sum + to! - from!, 0)
    expect(length).toBeCloseTo(18)
    expect(both.steps[3]!.script.includes('Other words.')).toBe(side === 'theirs')
  },
)

test('both sides reordered: one order is chosen, and every step is still there', () => {
  const { lesson: both, clashes } = merged(
    [{ name: 'moveSteps', steps: ['s5'], before: 's0' }],
    [{ name: 'moveSteps', steps: ['s0'], before: null }],
    'theirs',
  )
  expect(clashes.map(({ kind }) => kind)).toEqual(['order'])
  expect(both.steps.map(({ id }) => id)).toEqual(['s1', 's2', 's3', 's4', 's5', 's0'])
})

test('another language told on one side comes along, and what both tell otherwise is asked about', () => {
  const base = lesson()
  const french = {
    said: { s0: { script: 'Un.', passages: [] } },
    takes: [],
    marks: [],
    cleanUp: base.cleanUp,
    reading: base.reading,
    captionCorrections: [],
  }
  const theirs = { ...base, others: { fr: french } }
  expect(mergeLessons({ base, mine: base, theirs }).lesson.others).toEqual({ fr: french })
  const mine = { ...base, others: { fr: { ...french, said: { s0: { script: 'Une.', passages: [] } } } } }
  expect(mergeLessons({ base, mine, theirs }).clashes.map(({ key }) => key)).toEqual(['others/fr'])
})

test('a mark that both sides put elsewhere is asked about as what it is', () => {
  const mark = { id: 'm', step: 's1', word: null, place: { media: take, at: 4 }, guessed: null }
  const base: Lesson = { ...lesson(), marks: [mark] }
  const at = (place: number): Lesson => ({ ...base, marks: [{ ...mark, place: { media: take, at: place } }] })
  const { clashes } = mergeLessons({ base, mine: at(4.2), theirs: at(5) })
  expect(clashes).toMatchObject([{ kind: 'mark', step: null, mine: { id: 'm' } }])
})

const EDITS = fc.array(
  fc.oneof(
    fc.tuple(fc.nat(5), fc.string()).map(([i, text]): Edit => retitle(`s${i}`, text)),
    fc.tuple(fc.nat(5), fc.string()).map(([i, text]): Edit => rewrite(`s${i}`, text)),
    fc.nat(5).map((i): Edit => ({ name: 'moveSteps', steps: [`s${i}`], before: null })),
  ),
  { maxLength: 6 },
)

test('a side that changed nothing changes nothing; the same choice made from either side gives the same lesson', () => {
  fc.assert(
    fc.property(EDITS, EDITS, (first, second) => {
      const base = lesson()
      const [mine, theirs] = [edited(base, ...first), edited(base, ...second)]
      expect(mergeLessons({ base, mine, theirs: base }).lesson).toEqual(mine)
      expect(mergeLessons({ base, mine: base, theirs }).lesson).toEqual(theirs)
      const here = mergeLessons({ base, mine, theirs }, () => 'mine')
      const there = mergeLessons({ base, mine: theirs, theirs: mine }, () => 'theirs')
      expect(there.lesson).toEqual(here.lesson)
    }),
  )
})

test('a lesson that shares what is equal is the same lesson, made of the objects of the other', () => {
  const base = lesson()
  const stored = JSON.parse(JSON.stringify(edited(base, retitle('s1', 'Bowline')))) as Lesson
  const next = sharing(stored, base)
  expect(next).toEqual(stored)
  expect(next.steps[0]).toBe(base.steps[0])
  expect(next.steps[1]!.passages).toBe(base.steps[1]!.passages)
  expect(next.targets).toBe(base.targets)
})
