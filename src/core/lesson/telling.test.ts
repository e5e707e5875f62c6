import { NO_CLEAN_UP } from '@/core/narration/cleanUp/settings'
import { DEFAULT_READING } from '@/core/narration/speechVoice'
import { documentSchema, type LessonDocument } from './document'
import { applyEdit, type Edit } from './edits'
import { layoutLesson } from './layout'
import { newSound } from './newParts'
import { documentOf, tell } from './telling'
import { lessonOver, markAt } from '@/core/testing/lessons'

const OTHER = '9'.repeat(64)
const passage = (id: string, from: number, to: number) => ({ id, media: OTHER, from, to, pause: 0 })

/** Three steps, told in English and in German; something hangs on a word in both. */
function document(): LessonDocument {
  const english = {
    ...lessonOver([0, 3, 6, 9]),
    marks: [markAt('k', 's1', '1'.repeat(64), 4, 0)],
    nudges: [{ id: 'n', anchor: { kind: 'mark' as const, mark: 'k', offset: 0 }, gain: -3, shape: 'smooth' as const }],
  }
  const german = {
    said: {
      s0: { script: 'Eins.', passages: [passage('d0', 0, 2)] },
      s1: { script: 'Zwei.', passages: [passage('d1', 2, 5)] },
      s2: { script: 'Drei.', passages: [passage('d2', 5, 7)] },
    },
    takes: [],
    marks: [markAt('k', 's1', OTHER, 3, 0)],
    cleanUp: NO_CLEAN_UP,
    reading: DEFAULT_READING,
    captionCorrections: [],
  }
  const { narrations, ...rest } = documentOf(english)
  return { ...rest, narrations: { de: german, ...narrations } }
}
const edited = (edit: Edit): LessonDocument => documentOf(applyEdit(tell(document()), edit))
const germanOf = (one: LessonDocument) => tell(one, 'de').steps.map(({ id, script }) => `${id} ${script}`.trim())

test('told in a language and put together again, a document is what it was', () => {
  for (const language of ['en-gb', 'de']) expect(documentOf(tell(document(), language))).toEqual(document())
  expect(documentSchema.parse(document())).toEqual(document())
})

test('in each language its own voice is laid, over the same pictures and with the same things hung on it', () => {
  const [english, german] = [tell(document()), tell(document(), 'de')]
  expect(german.steps.map(({ picture }) => picture)).toEqual(english.steps.map(({ picture }) => picture))
  expect(german.steps.map(({ script }) => script)).toEqual(['Eins.', 'Zwei.', 'Drei.'])
  expect(german.nudges).toEqual(english.nudges)
})

test('a language it is not told in is refused with those there are', () => {
  expect(() => tell(document(), 'fr')).toThrow('It is told in: de, en-gb.')
})

test('what is said in another language goes with its steps', () => {
  expect(germanOf(edited({ name: 'deleteSteps', steps: ['s1'] }))).toEqual(['s0 Eins.', 's2 Drei.'])
  expect(germanOf(edited({ name: 'moveSteps', steps: ['s2'], before: 's0' }))).toEqual([
    's2 Drei.',
    's0 Eins.',
    's1 Zwei.',
  ])
  expect(germanOf(edited({ name: 'joinStep', step: 's1' }))).toEqual(['s0 Eins. Zwei.', 's1', 's2 Drei.'])
  const copies = [{ of: 's1', id: 'copy', passages: ['c'] }]
  expect(germanOf(edited({ name: 'duplicateSteps', copies }))).toEqual([
    's0 Eins.',
    's1 Zwei.',
    'copy Zwei.',
    's2 Drei.',
  ])
})

test('a copy of a step has the sounds on its words, in each language', () => {
  const bell = newSound('bell', OTHER, 1, { kind: 'mark', mark: 'k', offset: 0 }, 'effect')
  const after = newSound('after', OTHER, 1, { kind: 'sound', sound: 'bell', offset: 0.5 }, 'effect')
  const ringing = applyEdit(tell(document()), { name: 'addSounds', sounds: [bell, after] })
  const copies = [{ of: 's1', id: 'copy', passages: ['c'] }]
  const twice = documentOf(applyEdit(ringing, { name: 'duplicateSteps', copies }))
  for (const language of ['en-gb', 'de']) {
    const { sounds, steps, loose } = layoutLesson(tell(twice, language))
    const [first, copy] = ['s1', 'copy'].map((id) => steps.find(({ step }) => step.id === id)!.start)
    const starts = sounds.map(({ start }) => start)
    expect(starts).toHaveLength(4)
    expect(starts.slice(2)).toEqual(starts.slice(0, 2).map((start) => expect.closeTo(start + copy! - first!, 6)))
    expect(loose).toEqual([])
  }
})
