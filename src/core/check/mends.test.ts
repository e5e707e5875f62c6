import type { Lesson, SoundCue } from '@/core/lesson/document'
import { emptyLesson, newBed, newStep } from '@/core/lesson/newParts'
import { applyEdit } from '@/core/lesson/edits'
import { layoutLesson } from '@/core/lesson/layout'
import { newLayer, type Layer } from '@/core/lesson/layers'
import { analyse, speechLike, TAKE } from '@/core/testing/lessons'
import { planMix } from '@/core/mix/plan'
import type { Caption } from '@/core/captions/captions'
import { checkCaptions } from './captions'
import type { Finding, FindingCode } from './finding'
import { checkLesson } from './findings'
import { mendOf } from './mends'

const RING = 'b'.repeat(64)
const analyses = new Map([
  [TAKE, analyse([speechLike([[-20, 6]])])],
  [RING, analyse([speechLike([[-20, 2]])])],
])
const captionsOf = (lesson: Lesson): Caption[] =>
  layoutLesson(lesson).steps.map(({ step, start, end }) => ({
    step: step.id,
    start,
    end,
    lines: [step.script],
    from: 0,
    to: 1,
    isCorrected: false,
  }))
function findings(lesson: Lesson): Finding[] {
  const timeline = layoutLesson(lesson)
  const analysisOf = (hash: string) => analyses.get(hash)
  const checked = checkLesson(lesson, timeline, planMix(lesson, timeline, analysisOf), analysisOf, () => undefined)
  return [...checked, ...checkCaptions(lesson, timeline, captionsOf(lesson))]
}

const words = (area: Layer['area']): Layer => ({ ...newLayer('l', 'label'), text: 'Two bells', area }) as Layer
const bell: SoundCue = {
  id: 'bell',
  media: RING,
  from: 0,
  to: 2,
  track: 'effect',
  anchor: { kind: 'step', step: 's', offset: 1 },
  gain: 0,
  fadeIn: 0,
  fadeOut: 0,
  meant: false,
  caption: '',
}
function lessonWith(part: Partial<Lesson>, layers: Layer[] = [], fixed: number | null = null): Lesson {
  const step = {
    ...newStep('s', 'Lines', { kind: 'card' as const, lines: ['x'] }),
    script: 'Ease the line, and wait until it is slack.',
    passages: [{ id: 'p', media: TAKE, from: 0, to: 6, pause: 0 }],
    layers,
    length: fixed === null ? { kind: 'voice' as const, atLeast: 1 } : { kind: 'fixed' as const, length: fixed },
  }
  return { ...emptyLesson('Knots'), steps: [step, { ...step, id: 't', passages: [], layers: [] }], ...part }
}
const PLAIN = { x: 0.3, y: 0.4, width: 0.3, height: 0.1 }

const look = emptyLesson('x').look
test.each<[FindingCode, Lesson]>([
  ['words-run-over', lessonWith({}, [], 3)],
  ['effect-over-words', lessonWith({ sounds: [bell] })],
  ['two-voices', lessonWith({ sounds: [{ ...bell, track: 'voice' }] })],
  ['low-contrast', lessonWith({ look: { ...look, ink: '#999999' } }, [words(PLAIN)])],
  ['outside', lessonWith({}, [words({ ...PLAIN, x: 0.9 })])],
  ['edge-over-words', lessonWith({ edge: { kind: 'dissolve', length: 2 } })],
  [
    'near-music',
    lessonWith({ bedCues: [newBed('m', RING, 's')], targets: { ...emptyLesson('x').targets, clearance: 3 } }),
  ],
  ['loose-sound', lessonWith({ sounds: [{ ...bell, anchor: { kind: 'mark', mark: 'gone', offset: 0 } }] })],
  ['loose-layer', lessonWith({}, [{ ...words(PLAIN), from: 'gone' }])],
  ['captions-over-words', lessonWith({}, [words({ x: 0.2, y: 0.8, width: 0.5, height: 0.1 })])],
  ['lost-captions', lessonWith({ captionCorrections: [{ words: 'Cast off.', text: 'Off!' }] })],
])('%s is found, and gone after its mend', (code, lesson) => {
  const finding = findings(lesson).find((one) => one.code === code)!
  expect(finding).toBeDefined()
  const { label, edits } = mendOf(finding, lesson)!
  expect(label).not.toBe('')
  const mended = edits.reduce((now, edit) => applyEdit(now, edit), lesson)
  expect(findings(mended).map((one) => one.code)).not.toContain(code)
})

test('captions that nobody can read in time, or that are too wide, are told once with how many', () => {
  const lesson = lessonWith({})
  const timeline = layoutLesson(lesson)
  const caption = { ...captionsOf(lesson)[0]!, start: 0, end: 1, lines: ['Ease the line, and wait until it is slack.'] }
  const found = checkCaptions(lesson, timeline, [
    caption,
    { ...caption, start: 2, end: 3, lines: ['a', 'b', 'c'] },
    caption,
    { ...caption, start: 4, end: 4.5 },
  ])
  expect(found.map(({ code, stepId }) => [code, stepId])).toEqual([
    ['short-captions', 's'],
    ['fast-captions', 's'],
    ['wide-captions', 's'],
  ])
  expect(found.map(({ text }) => text.slice(0, 11))).toEqual(['One caption', '2 captions ', 'One caption'])
  expect(checkCaptions(lesson, timeline, captionsOf(lesson))).toEqual([])
})

test('what only somebody can decide has no mend', () => {
  const lesson = lessonWith({})
  expect(mendOf({ severity: 'warning', code: 'clipped-take', stepId: 's', text: '' }, lesson)).toBeNull()
  expect(mendOf({ severity: 'warning', code: 'outside', stepId: 's', subject: 'gone', text: '' }, lesson)).toBeNull()
})
