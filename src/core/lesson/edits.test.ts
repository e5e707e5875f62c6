import fc from 'fast-check'
import { DEFAULT_TARGETS, emptyLesson, lessonSchema, newBed, newStep, type Lesson, type Step } from './document'
import { applyEdit, type Edit } from './edits'
import { doEdit, openHistory, redo, undo } from './history'
import { layoutLesson, stepLength } from './layout'

const take = 'a'.repeat(64)
const deck = 'b'.repeat(64)
const song = 'c'.repeat(64)
const page = (n: number) => ({ kind: 'still' as const, media: deck, page: n })

/** Slides over one long reading, cut at whole multiples of three seconds. */
function reading(count: number): Lesson {
  const steps = Array.from({ length: count }, (_, i): Step => ({
    ...newStep(`s${i}`, `Slide ${i + 1}`, page(i + 1)),
    script: `Sentence ${i} one. Sentence ${i} two.`,
    passages: [{ id: `p${i}`, media: take, from: i * 3, to: i * 3 + 3, pause: 0 }],
  }))
  return { ...emptyLesson('Knots'), steps, bedCues: [newBed('bed', song, 's0')] }
}
const edited = (lesson: Lesson, ...edits: Edit[]) => edits.reduce((now, edit) => applyEdit(now, edit).lesson, lesson)
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

/** Any edit that fits the lesson as it then stands, picked by random numbers. */
const anyEdit = fc.record({ kind: fc.nat(22), a: fc.nat(), b: fc.nat(), t: fc.double({ min: 0, max: 1, noNaN: true }) })
type Pick = { kind: number; a: number; b: number; t: number }
function editFor(lesson: Lesson, { kind, a, b, t }: Pick, serial: number): Edit | null {
  const step = lesson.steps[a % lesson.steps.length]
  const other = lesson.steps[b % lesson.steps.length]
  if (!step || !other) return { name: 'addSteps', before: null, steps: [newStep(`n${serial}`, 'New', page(1))] }
  const passage = step.passages[b % Math.max(1, step.passages.length)]
  const id = `n${serial}`
  const edits: (Edit | null)[] = [
    { name: 'addSteps', before: other.id, steps: [newStep(id, 'New', page(2))] },
    { name: 'moveSteps', steps: [...new Set([step.id, other.id])], before: a % 3 ? other.id : null },
    { name: 'duplicateSteps', copies: [{ of: step.id, id, passages: step.passages.map((_, i) => `${id}p${i}`) }] },
    { name: 'deleteSteps', steps: [step.id] },
    { name: 'setScript', step: step.id, script: `words ${serial}` },
    {
      name: 'setLength',
      step: step.id,
      length: b % 2 ? { kind: 'fixed', length: t * 9 } : { kind: 'voice', atLeast: t * 5 },
    },
    { name: 'setLeadIn', step: step.id, leadIn: t * 2 },
    { name: 'setTail', step: step.id, tail: t * 2 },
    {
      name: 'placePassage',
      step: step.id,
      index: 0,
      passage: { id: `${id}p`, media: take, from: t * 5, to: t * 5 + 1, pause: 0 },
    },
    passage ? { name: 'removePassage', passage: passage.id } : null,
    passage
      ? {
          name: 'breakStep',
          step: step.id,
          passage: passage.id,
          at: passage.from + t * (passage.to - passage.from),
          scriptAt: b % 9,
          newPassage: `${id}b`,
          newStep: id,
        }
      : null,
    { name: 'joinStep', step: step.id },
    { name: 'addBed', cue: newBed(id, song, step.id) },
    { name: 'setTarget', target: 'clearance', value: 3 + t * 30 },
    {
      name: 'addSounds',
      sounds: [
        {
          id,
          media: song,
          from: 0,
          to: 1 + t,
          track: a % 2 ? 'effect' : 'voice',
          anchor:
            b % 2
              ? { kind: 'step', step: step.id, offset: t }
              : { kind: 'said', said: { media: take, at: t * 9 }, offset: 0 },
          gain: 0,
          fadeIn: 0,
          fadeOut: 0,
          meant: false,
        },
      ],
    },
    lesson.sounds[0] ? { name: 'removeSounds', sounds: [lesson.sounds[a % lesson.sounds.length]!.id] } : null,
    { name: 'setNudges', nudges: [{ id, step: step.id, offset: t, gain: -6 * t, shape: 'straight' }] },
    { name: 'setLength', step: step.id, length: b % 2 ? { kind: 'until-next', atLeast: t } : { kind: 'lesson' } },
    { name: 'addPicture', step: step.id, id, picture: page(3), said: { media: take, at: t * 9 } },
    passage
      ? {
          name: 'cutWords',
          step: step.id,
          cuts: [
            {
              passage: passage.id,
              from: passage.from + (t * (passage.to - passage.from)) / 2,
              to: passage.to - (t * (passage.to - passage.from)) / 3,
              newPassage: `${id}c`,
            },
          ],
          script: `words ${serial}`,
        }
      : null,
    {
      name: 'pasteWords',
      step: step.id,
      at: passage ? { passage: passage.id, at: passage.from + t, newPassage: `${id}l` } : null,
      pieces: [{ id: `${id}p`, media: take, from: t, to: t + 1, pause: 0 }],
      script: `words ${serial}`,
      takes: [],
      shelf: [],
    },
    passage ? { name: 'showHidden', passage: passage.id } : null,
    { name: 'pasteSteps', before: other.id, steps: [{ ...newStep(id, 'Pasted', page(1)) }], takes: [], shelf: [] },
  ]
  return edits[kind] ?? null
}

test('200 random edits: no gap or overlap appears, undo is exact to the byte, redo leads back', () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { minLength: 200, maxLength: 200 }), (picks) => {
      let history = openHistory(reading(6))
      const states = [JSON.stringify(history.lesson)]
      picks.forEach((pick, serial) => {
        const edit = editFor(history.lesson, pick, serial)
        if (!edit) return
        let next
        try {
          next = doEdit(history, edit)
        } catch (error) {
          if ((error as Error).name !== 'UserError') throw error
          return
        }
        if (next === history) return
        history = next
        states.push(JSON.stringify(history.lesson))
        expectSound(history.lesson)
      })
      const last = states.length - 1
      for (let i = last; i >= 0; i--) {
        expect(JSON.stringify(history.lesson)).toBe(states[i])
        history = undo(history)
      }
      for (let i = 0; i < last; i++) history = redo(history)
      expect(JSON.stringify(history.lesson)).toBe(states[last])
    }),
    { numRuns: 15 },
  )
})

/** Whether a step gives time to the one before it, or takes some of the next one's. */
const borrows = ({ steps }: Lesson, index: number) =>
  steps[index]!.length.kind === 'until-next' || steps[index - 1]?.length.kind === 'until-next'

/** What must hold in every lesson whatever was done to it. */
function expectSound(lesson: Lesson): void {
  expect(JSON.stringify(lessonSchema.parse(lesson))).toBe(JSON.stringify(lesson))
  const ids = lesson.steps.flatMap((step) => [step.id, ...step.passages.map(({ id }) => id)])
  expect(new Set(ids).size).toBe(ids.length)
  expect(new Set(lesson.bedCues.map(({ step }) => step)).size).toBe(lesson.bedCues.length)

  const timeline = layoutLesson(lesson)
  timeline.steps.forEach((span, i) => {
    expect(span.start).toBe(timeline.steps[i - 1]?.end ?? 0)
    if (!borrows(lesson, i)) expect(span.end - span.start).toBeCloseTo(stepLength(span.step, lesson.lengths), 9)
  })
  expect(timeline.length).toBe(timeline.steps.at(-1)?.end ?? 0)
  // Every sound is heard or known to be loose; pictures fill the lesson without a gap.
  expect(timeline.sounds.length + timeline.loose.length).toBe(lesson.sounds.length)
  timeline.pictures.forEach((span, i) => expect(span.start).toBe(timeline.pictures[i - 1]?.end ?? 0))
  for (const { step } of lesson.nudges) expect(lesson.steps.some(({ id }) => id === step)).toBe(true)
  timeline.passages.forEach((span, i) => {
    const previous = timeline.passages[i - 1]
    if (previous) expect(span.start).toBeGreaterThanOrEqual(previous.end - 1e-9)
  })
  timeline.beds.forEach((bed, i) => expect(bed.end).toBe(timeline.beds[i + 1]?.start ?? timeline.length))
  if (lesson.steps.length > 0) expect(timeline.beds.length).toBe(lesson.bedCues.length)
}

test('defaults are valid', () => {
  expect(lessonSchema.parse(emptyLesson('x')).targets).toEqual(DEFAULT_TARGETS)
})
