import { firstLesson } from '@/core/lesson/firstLesson'
import { byName } from '@/core/lesson/fromFile'
import { layoutLesson } from '@/core/lesson/layout'
import { titleFromName, type MediaInfo } from '@/core/messages/media'
import type { SpeechSegment } from '@/core/measure/speech'
import { breakPlaces, chooseBreaks } from './breaks'
import { phrasesOf, scriptEdges, wordsOf } from '@/core/narration/words/phrases'

/** Speech of the given lengths with the given pauses between them, from half a second on. */
function spoken(lengths: readonly number[], pauses: readonly number[]): SpeechSegment[] {
  let at = 0.5
  return lengths.map((length, i) => {
    const segment = { start: at, end: at + length }
    at += length + (pauses[i] ?? 0)
    return segment
  })
}
const media = (part: Partial<MediaInfo>): MediaInfo => ({
  hash: 'f'.repeat(64),
  kind: 'sound',
  name: 'x.wav',
  extension: 'wav',
  bytes: 1,
  length: null,
  channels: 0,
  pages: [],
  texts: [],
  notes: [],
  hidden: [],
  darkPages: [],
  labels: [],
  soundTracks: [],
  soundTrack: 0,
  lastPicture: null,
  sides: null,
  hum: null,
  note: null,
  ...part,
})

test('a break lies shortly before the next word, in the middle of a short pause', () => {
  expect(breakPlaces(spoken([2, 2], [1]))).toEqual([{ at: 3.25, pause: 1 }])
  expect(breakPlaces(spoken([2, 2], [0.2]))[0]!.at).toBeCloseTo(2.6, 9)
  expect(breakPlaces(spoken([2, 2], [0.1]))).toEqual([])
})

test('the long pauses are the changes of slide', () => {
  const speech = spoken([5, 4, 6, 5, 4, 6], [0.4, 1.6, 0.3, 1.5, 0.4])
  const breaks = chooseBreaks(speech, [1, 1, 1])
  expect(breaks.map((at) => Number(at.toFixed(2)))).toEqual([speech[2]!.start - 0.25, speech[4]!.start - 0.25])
})

test('among equal pauses the script decides how much is said on each slide', () => {
  const speech = spoken(
    Array.from({ length: 12 }, () => 3),
    Array.from({ length: 11 }, () => 0.5),
  )
  expect(chooseBreaks(speech, [1, 3])).toEqual([speech[3]!.start - 0.25])
  expect(chooseBreaks(speech, [3, 1])).toEqual([speech[9]!.start - 0.25])
})

test('with fewer pauses than slides, as many breaks as there are pauses', () => {
  expect(chooseBreaks(spoken([3, 3], [0.6]), [1, 1, 1, 1])).toHaveLength(1)
  expect(chooseBreaks([], [1, 1])).toEqual([])
  expect(chooseBreaks(spoken([3], []), [1, 1])).toEqual([])
})

test('a script is spread by time, but cut at the ends of sentences close by', () => {
  const script = 'Look up first. Then look down, at the weed. Decide.'
  const cut = (lengths: number[]) => {
    const edges = scriptEdges(script, lengths)
    return edges.slice(1).map((to, i) => script.slice(edges[i], to).trim())
  }
  expect(cut([1.1, 2.2, 0.5])).toEqual(['Look up first.', 'Then look down, at the weed.', 'Decide.'])
  expect(cut([4])).toEqual([script])
  expect(scriptEdges('', [1, 2])).toEqual([0, 0, 0])
  // More phrases than words: each word has one, the rest have none.
  expect(scriptEdges('One two', [1, 1, 1])).toEqual([0, 4, 7, 7])
  // Two short phrases close together still get a word each.
  expect(cut([2.2, 0.3, 0.3, 1.5]).every(Boolean)).toBe(true)
})

test('phrases stand in lesson time, with the place in the take where a break before them falls', () => {
  const speech = spoken([2, 2, 2], [0.8, 0.1])
  const step = { id: 's' } as never
  const span = {
    passage: { id: 'p', media: 'm', from: 0.25, to: 8, pause: 0 },
    sound: 'm',
    step,
    start: 10,
    end: 17.75,
  }
  const phrases = phrasesOf([span], 'One. Two three.', () => speech)
  expect(phrases).toHaveLength(2)
  expect(phrases[0]).toMatchObject({ passage: 'p', breakAt: 0.25 })
  expect(phrases[0]!.start).toBeCloseTo(10.25, 9)
  expect(phrases[1]!.start).toBeCloseTo(10 + 3.3 - 0.25, 9)
  expect(phrases[1]!.end).toBeCloseTo(10 + 7.4 - 0.25, 9)
  expect(phrases[1]!.breakAt).toBeCloseTo(3.3 - 0.25, 9)
  const words = wordsOf(phrases[1]!, ['Two', 'three.'])
  expect(words.at(-1)!.end).toBeCloseTo(phrases[1]!.end, 9)
})

describe('a first lesson', () => {
  const deck = media({
    hash: 'd'.repeat(64),
    kind: 'deck',
    name: 'knots-v2.pdf',
    pages: ['Bowline', '', 'Clove hitch'],
  })
  const song = media({ hash: 'e'.repeat(64), name: 'song.mp3', length: 60, channels: 2 })
  const speech = spoken([5, 5, 5], [1.5, 1.5])
  const voice = { media: media({ name: 'reading.wav', length: 20, channels: 1 }), speech }
  let serial = 0
  const make = (part: Partial<Parameters<typeof firstLesson>[0]>) =>
    firstLesson({ title: 'Knots', pictures: [deck], voices: [voice], music: [song], ...part }, () => `id${serial++}`)

  test('one step a page, the reading laid over them without losing any of it, the song under all', () => {
    const lesson = make({})
    expect(lesson.steps.map(({ title }) => title)).toEqual(['Bowline', 'Knots v2, page 2', 'Clove hitch'])
    const parts = lesson.steps.map(({ passages }) => passages[0]!)
    expect(parts[0]!.from).toBeCloseTo(0.25, 9)
    expect(parts[1]!.from).toBe(parts[0]!.to)
    expect(parts[2]!.from).toBe(parts[1]!.to)
    expect(parts[2]!.to).toBeCloseTo(speech[2]!.end + 0.25, 9)
    expect(layoutLesson(lesson).beds).toMatchObject([{ start: 0, end: layoutLesson(lesson).length }])
    expect(lesson.shelf).toHaveLength(3)
  })

  test('one recording a slide: each goes to its own', () => {
    const voices = [1, 2, 3].map((n) => ({
      media: media({ hash: String(n).repeat(64), name: `${n}.wav`, length: 6 }),
      speech: spoken([4], []),
    }))
    expect(make({ voices }).steps.map(({ passages }) => passages.map((one) => one.media[0]))).toEqual([
      ['1'],
      ['2'],
      ['3'],
    ])
  })

  test('a script with a paragraph for each slide goes to the slides', () => {
    const lesson = make({ script: 'Make a loop.\n\nAnd round.\n\nTwice about the post.\nDone.' })
    expect(lesson.steps.map(({ script }) => script)).toEqual([
      'Make a loop.',
      'And round.',
      'Twice about the post. Done.',
    ])
  })

  test('without pictures a card stands for them; with nothing at all there is an empty lesson', () => {
    expect(make({ pictures: [] }).steps.map(({ picture }) => picture)).toEqual([{ kind: 'card', lines: ['Knots'] }])
    expect(make({ pictures: [], voices: [], music: [] }).steps).toEqual([])
  })
})

test('names are ordered as people count, and give titles', () => {
  const names = ['Slide 10.png', 'slide 2.png', 'Slide 1.png'].map((name) => ({ name }))
  expect(names.sort(byName).map(({ name }) => name)).toEqual(['Slide 1.png', 'slide 2.png', 'Slide 10.png'])
  expect(titleFromName('tide_table-02.png')).toBe('Tide table 02')
  expect(titleFromName('.png')).toBe('.png')
})
