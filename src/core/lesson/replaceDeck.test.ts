import type { Lesson } from './document'
import { newLayer } from './layers'
import { emptyLesson, newStep, newStill } from './newParts'
import { applyEdit } from './edits'
import { changedTexts } from './replaceDeck'
import type { MediaInfo } from '@/core/messages/media'
import type { PageMatch } from '@/core/messages/job'

const [old, now, take] = ['a', 'b', 'c'].map((letter) => letter.repeat(64)) as [string, string, string]
const page = (media: string, number: number) => newStill(media, number)
const item = (media: string) => ({ media, kind: 'deck' as const, title: 'Slides', source: '', licence: '', credit: '' })
const lesson: Lesson = {
  ...emptyLesson('x'),
  shelf: [item(old)],
  steps: [1, 2, 3, 4].map((number) => ({
    ...newStep(`s${number}`, `Slide ${number}`, page(old, number)),
    passages: number === 4 ? [] : [{ id: `p${number}`, media: take, from: number, to: number + 1, pause: 0 }],
  })),
}
/** Page 2 moved to the front, 3 and 4 are gone, a new one stands in the middle. */
const pages: PageMatch[] = [
  { old: 2, now: 1, change: 'same' },
  { old: null, now: 2, change: 'new' },
  { old: 1, now: 3, change: 'changed' },
  { old: 3, now: null, change: 'gone' },
  { old: 4, now: null, change: 'gone' },
]

test('pages keep their words, new ones come where they are in the deck, gone ones leave their words', () => {
  const added = [{ page: 2, id: 'new', title: 'New slide', script: 'What is new.' }]
  const after = applyEdit(lesson, { name: 'replaceDeck', old, now: item(now), pages, added })
  expect(after.steps.map(({ id, picture }) => [id, picture.kind === 'still' ? picture.page : picture.kind])).toEqual([
    ['s1', 3],
    ['s2', 1],
    ['new', 2],
    ['s3', 'card'],
  ])
  expect(after.steps.flatMap(({ passages }) => passages)).toEqual(lesson.steps.flatMap(({ passages }) => passages))
  expect(after.shelf).toEqual([item(now)])
})

test('a step without words whose slide goes stays where something was drawn over that slide', () => {
  const drawn = {
    ...lesson,
    steps: lesson.steps.map((step) => (step.id === 's4' ? { ...step, layers: [newLayer('ring', 'ring')] } : step)),
  }
  const after = applyEdit(drawn, { name: 'replaceDeck', old, now: item(now), pages, added: [] })
  expect(after.steps.at(-1)).toMatchObject({ id: 's4', picture: { kind: 'card' }, layers: [{ id: 'ring' }] })
})

test('titles and notes that have changed are told, and whether the step has words of its own by now', () => {
  const deck = (hash: string, titles: string[], notes: string[]) =>
    ({
      hash,
      kind: 'deck',
      name: 'Slides.pdf',
      pages: titles,
      notes,
      texts: [],
      labels: [],
      hidden: [] as number[],
    }) as unknown as MediaInfo
  const [before, after] = [
    deck(old, ['Slide 1', 'Slide 2', '', 'Slide 4'], ['One.', 'Two.', 'Three.', 'Four.']),
    deck(now, ['Slide 2', 'New', 'The first'], ['Two, anew.', 'New.', 'One, anew.']),
  ]
  const said = lesson.steps.map((step, i) => ({ ...step, script: ['One.', 'My own two.', 'Three.', ''][i]! }))
  expect(changedTexts(said, before, after, pages)).toEqual([
    { step: 's1', what: 'title', page: 3, before: 'Slide 1', now: 'The first', isAsBefore: true },
    { step: 's1', what: 'script', page: 3, before: 'One.', now: 'One, anew.', isAsBefore: true },
    { step: 's2', what: 'script', page: 1, before: 'Two.', now: 'Two, anew.', isAsBefore: false },
  ])
  const renamed = said.map((step) => ({ ...step, title: 'My own' }))
  expect(changedTexts(renamed, before, after, pages).map(({ what, isAsBefore }) => [what, isAsBefore])).toEqual([
    ['title', false],
    ['script', true],
    ['script', false],
  ])
  expect(changedTexts(said, before, { ...after, pages: ['', '', ''], notes: [] }, pages)).toEqual([])
})
