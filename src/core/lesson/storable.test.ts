import { TAKE, SONG, lessonOver } from '@/core/testing/lessons'
import { lessonSchema, type BedCue, type Lesson } from './document'
import { emptyLesson, newRecording, newStep } from './newParts'
import { applyEdit } from './edits'
import { LIMITS } from './limits'
import { assertStorable } from './storable'
import { withinFiles } from './withinFiles'

const lesson = lessonOver([0, 4, 8])
const bed = (part: Partial<BedCue>): Lesson => ({ ...lesson, bedCues: [{ ...lesson.bedCues[0]!, ...part }] })

test('a script of an hour and a name as long as a path are taken whole', () => {
  const script = 'words '.repeat(12_000)
  const edited = applyEdit(lesson, { name: 'setScript', step: 's1', script })
  expect(edited.steps[1]!.script).toBe(script)
  const named = applyEdit(edited, { name: 'renameStep', step: 's1', title: 'n'.repeat(255) })
  expect(() => lessonSchema.parse(named)).not.toThrow()
})

test('an edit that would make a lesson that can not be stored says so and changes nothing', () => {
  const half = 's'.repeat(LIMITS.scriptCharacters * 0.6)
  const long = { ...lesson, steps: lesson.steps.map((step) => ({ ...step, script: half })) }
  expect(() => applyEdit(long, { name: 'joinStep', step: 's1' })).toThrow(/too long to be kept .*script.*500,000/)
  expect(long.steps).toHaveLength(2)
  const steps = Array.from({ length: LIMITS.items.steps + 1 }, (_, i) =>
    newStep(`n${i}`, '', { kind: 'card', lines: ['x'] }),
  )
  expect(() => applyEdit(lesson, { name: 'addSteps', before: null, steps })).toThrow('2,000 steps')
})

test('no lesson is longer than a day', () => {
  const day = { kind: 'fixed', length: 24 * 3600 } as const
  const once = applyEdit(lesson, { name: 'setLength', step: 's1', length: { ...day, length: 23 * 3600 } })
  expect(() => applyEdit(once, { name: 'setLength', step: 's0', length: day })).toThrow('24 hours')
  const many = { ...emptyLesson(''), steps: lesson.steps.map((step) => ({ ...step, length: day })) }
  expect(() => assertStorable(many)).toThrow('24 hours')
})

test('a part is kept inside its file wherever it is set, and undoing leads back to the byte', () => {
  const lengthOf = (media: string) => ({ [SONG]: 200, [TAKE]: 8 })[media]
  const before = bed({})
  const cue = { ...before.bedCues[0]!, from: 500 }
  const after = applyEdit(before, { name: 'setBed', cue }, lengthOf)
  expect(after.bedCues[0]!.from).toBeLessThan(200)
  const trimmed = applyEdit(before, { name: 'trimPassage', passage: 'p1', from: 4, to: 99 }, lengthOf)
  expect(trimmed.steps[1]!.passages[0]).toMatchObject({ from: 4, to: 8 })
})

test.each([[{ from: 500, to: null }], [{ from: 90, to: 30 }], [{ from: 0, to: 0 }], [{ from: 199.999, to: 1e4 }]])(
  'music used from and to %j is used inside its file',
  (part) => {
    const [cue] = withinFiles(bed(part), () => 200).bedCues
    const end = cue!.to ?? 200
    expect(cue!.from).toBeGreaterThanOrEqual(0)
    expect(end).toBeGreaterThan(cue!.from)
    expect(end).toBeLessThanOrEqual(200)
  },
)

test('what is inside is left as the very object it was; recordings and takes are looked at too', () => {
  expect(withinFiles(lesson, () => 8)).toBe(lesson)
  const picture = { ...newRecording(TAKE, 8), from: 3, to: 40 }
  const wild = {
    ...lesson,
    steps: [{ ...lesson.steps[0]!, picture, more: [{ id: 'm', picture, mark: 'k' }] }],
  }
  const [step] = withinFiles(wild, () => 8).steps
  expect(step!.picture).toMatchObject({ from: 3, to: 8 })
  expect(step!.more[0]!.picture).toMatchObject({ from: 3, to: 8 })
})
