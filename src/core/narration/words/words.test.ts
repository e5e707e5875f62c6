import type { Lesson, Take } from '@/core/lesson/document'
import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { applyEdit } from '@/core/lesson/edits'
import { layoutLesson } from '@/core/lesson/layout'
import type { TimedWord } from '@/core/messages/job'
import { isOutdated } from '@/core/lesson/takes'
import { analyse, speechLike, TAKE } from '@/core/testing/lessons'
import { cutBefore, quietest } from './cutPlaces'
import { findWords } from './findWords'
import { heardIn } from './heardWords'
import { matchWords } from './matchWords'
import { stepWords, type HeardWords } from './stepWords'
import { clipOfRange, cutsOfRange, scriptWith, scriptWithout } from './wordRange'

const SCRIPT = 'Ease the bow line. Let the tide do the work.'

/** Word n of a take is said from n to n + 0.8 s; after the fourth one there is a pause of two seconds. */
function timedWords(script: string): TimedWord[] {
  return [...script.matchAll(/\S+/g)].map(({ 0: text, index }, i) => {
    const start = i < 4 ? i : i + 2
    return {
      text,
      from: index,
      to: index + text.length,
      sentence: i < 4 ? 0 : 1,
      start,
      end: start + 0.8,
      confidence: 0.9,
    }
  })
}

const take: Take = {
  id: 't',
  media: TAKE,
  step: 's',
  from: 0,
  to: 13,
  name: 'Take 1',
  kind: 'recorded',
  script: SCRIPT,
  room: null,
  cleanUp: null,
  removed: false,
  retimed: [],
}

function lessonWith(passages: [from: number, to: number][], script = SCRIPT): Lesson {
  const step = {
    ...newStep('s', 'Bow line', { kind: 'card' as const, lines: ['x'] }),
    script,
    leadIn: 1,
    passages: passages.map(([from, to], i) => ({ id: `p${i}`, media: TAKE, from, to, pause: 0 })),
  }
  return { ...emptyLesson('Knots'), steps: [step], takes: [take] }
}

const heardOf = (lesson: Lesson): HeardWords => ({
  wordsOf: (span) => heardIn(lesson, span, (one) => timedWords(one.script)),
  speechOf: () => [{ start: 0, end: 12 }],
})
const wordsIn = (lesson: Lesson) => stepWords(layoutLesson(lesson).passages, lesson.steps[0]!.script, heardOf(lesson))
const say = (lesson: Lesson) => wordsIn(lesson).map(({ text, start, confidence }) => [text, start, confidence])

describe('matching words', () => {
  test('finds each word of one text in the other, without regard to case and punctuation', () => {
    const partner = matchWords(['Let', 'the', 'big', 'tide', 'work.'], ['let', 'the', 'tide', 'really', 'Work'])
    expect([...partner]).toEqual([0, 1, -1, 2, 4])
  })
  test('nothing matches nothing', () => {
    expect([...matchWords(['a'], [])]).toEqual([-1])
    expect([...matchWords([], ['a'])]).toEqual([])
  })
})

describe('words of a step', () => {
  test('stand where they are said, moved with their passage', () => {
    const words = say(lessonWith([[0, 13]]))
    expect(words[0]).toEqual(['Ease', 1, 0.9])
    expect(words[4]).toEqual(['Let', 7, 0.9])
  })
  test('after a cut only the words that are heard have times of their own', () => {
    const lesson = lessonWith([[2, 13]], 'bow line. Let the tide do the work.')
    expect(say(lesson)[0]).toEqual(['bow', 1, 0.9])
  })
  test('a word corrected in the script stands between its neighbours, as a guess', () => {
    const corrected = say(lessonWith([[0, 13]], SCRIPT.replace('bow', 'stern')))
    expect(corrected[2]).toEqual(['stern', expect.closeTo(2.8, 6), null])
    expect(corrected[3]).toEqual(['line.', 4, 0.9])
  })
  test('words that were not found share what is free by their letters, across a cut too', () => {
    const longer = SCRIPT.replace('line.', 'line of the boat.')
    // 'line', found before, is another word than 'line.' no longer: it ends at 3.8 s; 'Let' begins at 6 s, after the cut.
    const lesson = lessonWith(
      [
        [0, 4.4],
        [5.4, 13],
      ],
      longer,
    )
    const guesses = wordsIn(lesson).filter(({ confidence }) => confidence === null)
    expect(guesses.map(({ text, passage }) => [text, passage])).toEqual([
      ['of', 'p0'],
      ['the', 'p0'],
      ['boat.', 'p1'],
    ])
    guesses.forEach(({ start, end }, i) => {
      expect(end - start).toBeGreaterThan(0.15)
      expect(start).toBeGreaterThanOrEqual(guesses[i - 1]?.end ?? 0)
    })
    expect(guesses.at(-1)!.end).toBeCloseTo(wordsIn(lesson).find(({ text }) => text === 'Let')!.start, 6)
  })
  test('a script of which no word is heard is guessed as a whole', () => {
    const said = say(lessonWith([[0, 13]], 'Slack water.'))
    expect(said.map(([text, , confidence]) => [text, confidence])).toEqual([
      ['Slack', null],
      ['water.', null],
    ])
  })
  test('while one of two passages is still looked through, its words stand in it, as guesses', () => {
    const lesson = lessonWith([
      [0, 4],
      [4, 13],
    ])
    const all = heardOf(lesson)
    const half: HeardWords = { ...all, wordsOf: (span) => (span.passage.from === 0 ? null : all.wordsOf(span)) }
    const words = stepWords(layoutLesson(lesson).passages, SCRIPT, half)
    expect(words.slice(0, 4).map(({ start, confidence }) => [start, confidence])).toEqual([
      [1, null],
      [2, null],
      [3, null],
      [4, null],
    ])
    expect(words[4]).toMatchObject({ text: 'Let', confidence: 0.9 })
  })
  test('while nothing has been found yet, all are guesses', () => {
    const lesson = lessonWith([[0, 13]])
    const words = stepWords(layoutLesson(lesson).passages, SCRIPT, { ...heardOf(lesson), wordsOf: () => null })
    expect(words.map(({ text }) => text).join(' ')).toBe(SCRIPT)
    expect(words.every(({ confidence }) => confidence === null)).toBe(true)
  })
  test('a word retimed by hand pushes its neighbour', () => {
    const lesson = lessonWith([[0, 13]])
    const edit = { name: 'retimeWord' as const, take: 't', character: 5, start: 1.1, end: 2.3 }
    const words = wordsIn(applyEdit(lesson, edit))
    expect(words[1]!.at).toEqual({ from: 1.1, to: 2.3 })
    expect(words[2]!.at.from).toBe(2.3)
  })
})

describe('where words are cut', () => {
  const analysisOf = () => undefined
  test('in the pause before a word, a quarter of a second early', () => {
    expect(cutBefore(wordsIn(lessonWith([[0, 13]])), 4, analysisOf)!.at).toBeCloseTo(6 - 0.25, 9)
  })
  test('without a pause where the voice is softest', () => {
    const sound = speechLike([
      [-12, 1.0],
      [-50, 0.03],
      [-12, 1.0],
    ])
    const analysis = analyse([sound])
    expect(quietest(analysis, 0.9, 1.1)).toBeGreaterThan(0.995)
    expect(quietest(analysis, 0.9, 1.1)).toBeLessThan(1.035)
  })
  test('cutting words leaves the rest, and the script follows; undo is exact', () => {
    const lesson = lessonWith([[0, 13]])
    const words = wordsIn(lesson)
    const range = { from: 4, to: 6 }
    let serial = 0
    const cuts = cutsOfRange(lesson.steps[0]!, words, range, analysisOf, () => `n${serial++}`)
    const script = scriptWithout(SCRIPT, words, range)
    expect(script).toBe('Ease the bow line. tide do the work.')
    const after = applyEdit(lesson, { name: 'cutWords', step: 's', cuts, script })
    const parts = after.steps[0]!.passages.map(({ from, to }) => [from, to])
    expect(parts).toEqual([
      [0, expect.closeTo(5.75, 9)],
      [expect.closeTo(7.9, 9), 13],
    ])
    expect(isOutdated(after, after.steps[0]!)).toBe(false)
    const shown = applyEdit(after, { name: 'showHidden', passage: after.steps[0]!.passages[1]!.id })
    expect(shown.steps[0]!.passages.map(({ from, to }) => [from, to])).toEqual([[0, 13]])
  })
  test('copied words are put in before another word', () => {
    const lesson = lessonWith([[0, 13]])
    const words = wordsIn(lesson)
    const clip = clipOfRange(lesson.steps[0]!, words, { from: 2, to: 4 }, analysisOf)
    expect(clip.text).toBe('bow line.')
    const place = cutBefore(words, 4, analysisOf)!
    const edit = {
      name: 'pasteWords' as const,
      step: 's',
      at: { ...place, newPassage: 'later' },
      pieces: clip.pieces.map((piece, i) => ({ ...piece, id: `c${i}` })),
      script: scriptWith(SCRIPT, words, 4, clip.text),
      takes: [],
      shelf: [],
    }
    const after = applyEdit(lesson, edit)
    expect(after.steps[0]!.script).toBe('Ease the bow line. bow line. Let the tide do the work.')
    expect(after.steps[0]!.passages.map(({ id }) => id)).toEqual(['p0', 'c0', 'later'])
    expect(
      wordsIn(after)
        .map(({ text }) => text)
        .join(' '),
    ).toBe(after.steps[0]!.script)
    expect(wordsIn(after).every(({ confidence }) => confidence === 0.9)).toBe(true)
  })
})

describe('a script that changed', () => {
  test('is told from one that was only parted or cut', () => {
    const whole = lessonWith([[0, 13]])
    expect(isOutdated(whole, whole.steps[0]!)).toBe(false)
    const shorter = lessonWith([[0, 13]], 'Ease the bow line.')
    expect(isOutdated(shorter, shorter.steps[0]!)).toBe(true)
    const parted = lessonWith([[0, 5]], 'Ease the bow line.')
    expect(isOutdated(parted, parted.steps[0]!)).toBe(false)
    const other = lessonWith([[0, 5]], 'Ease the stern line.')
    expect(isOutdated(other, other.steps[0]!)).toBe(true)
  })
})

describe('accepting a script', () => {
  test('changes what is heard and nothing else; a take that two steps share says what both say', () => {
    const lesson = lessonWith([[0, 5]], 'Ease the stern line.')
    const next = { ...lesson.steps[0]!, id: 's2', script: 'Let the tide do the work.' }
    next.passages = [{ id: 'q', media: TAKE, from: 5, to: 13, pause: 0 }]
    const other = { ...take, id: 'other', media: '8'.repeat(64) }
    const shared = { ...lesson, steps: [lesson.steps[0]!, next], takes: [take, other] }
    const after = applyEdit(shared, { name: 'acceptScript', step: 's' })
    expect(after.takes.map(({ script }) => script)).toEqual(['Ease the stern line. Let the tide do the work.', SCRIPT])
    expect(after.steps.map((step) => isOutdated(after, step))).toEqual([false, false])
  })
})

describe('finding', () => {
  const steps = [
    { ...newStep('a', 'The bow line', { kind: 'card' as const, lines: ['x'] }), script: SCRIPT },
    {
      ...newStep('b', 'Fenders', { kind: 'card' as const, lines: ['x'] }),
      script: 'Then the bow: line it up. [pause 2] Bow.',
    },
  ]
  test('words in a row, across punctuation, the last one begun; titles, too', () => {
    expect(findWords(steps, 'Bow li')).toEqual([
      { step: 'a', word: -1 },
      { step: 'a', word: 2 },
      { step: 'b', word: 2 },
    ])
    expect(findWords(steps, 'li bow')).toEqual([])
    expect(findWords(steps, '  ')).toEqual([])
  })
})
