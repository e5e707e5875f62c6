import type { LengthRule, Lesson, SoundCue, Step } from './document'
import { DEFAULT_STAY, emptyLesson, newStep } from './newParts'
import { markAt } from '@/core/testing/lessons'
import { applyEdit } from './edits'
import { layoutLesson } from './layout'

const take = 'a'.repeat(64)
const bell = 'b'.repeat(64)
const card = (line: string) => ({ kind: 'card' as const, lines: [line] })
const step = (id: string, from: number, to: number, length: LengthRule, part: Partial<Step> = {}): Step => ({
  ...newStep(id, id, card(id)),
  passages: [{ id: `p${id}`, media: take, from, to, pause: 0 }],
  length,
  ...part,
})
const lessonOf = (...steps: Step[]): Lesson => ({ ...emptyLesson('x'), steps })
const ends = (lesson: Lesson) => layoutLesson(lesson).steps.map(({ end }) => end)
const voice: LengthRule = { kind: 'voice', atLeast: 0 }

describe('length rules', () => {
  test('follow the voice, the lesson, the words on the picture, or nothing', () => {
    const lesson = lessonOf(
      step('a', 0, 5, voice, { leadIn: 1, tail: 2 }),
      step('b', 5, 9, { kind: 'lesson' }),
      step('c', 9, 10, { kind: 'reading', perWord: 0.5, words: 20 }),
      step('d', 10, 12, { kind: 'fixed', length: 7 }),
      { ...newStep('e', 'e', card('e')) },
    )
    const { leadIn, tail } = lesson.lengths
    const lengths = [8, 4 + leadIn + tail, 10, 7, DEFAULT_STAY]
    expect(ends(lesson)).toEqual(lengths.map((_, i) => lengths.slice(0, i + 1).reduce((sum, one) => sum + one, 0)))
  })

  test('until the next word: the picture keeps the silence before the next voice, and nothing later moves', () => {
    const quiet = { leadIn: 1.5 }
    const plain = lessonOf(step('a', 0, 5, voice), step('b', 5, 9, voice, quiet), step('c', 9, 12, voice))
    const until = lessonOf(
      step('a', 0, 5, { kind: 'until-next', atLeast: 0 }),
      step('b', 5, 9, voice, quiet),
      step('c', 9, 12, voice),
    )
    expect(ends(plain)).toEqual([5, 10.5, 13.5])
    expect(ends(until)).toEqual([6.5, 10.5, 13.5])
    const starts = (lesson: Lesson) => layoutLesson(lesson).passages.map(({ start }) => start)
    expect(starts(until)).toEqual(starts(plain))
  })
})

describe('several pictures in a step', () => {
  test('each is seen from its word on, wherever the words have gone', () => {
    const marks = [markAt('at 4', 'a', take, 4), markAt('at 7', 'a', take, 7)]
    const { steps } = lessonOf(
      step('a', 0, 10, voice, {
        more: [
          { id: 'm2', picture: card('third'), mark: 'at 7' },
          { id: 'm1', picture: card('second'), mark: 'at 4' },
        ],
      }),
    )
    const lesson = { ...emptyLesson('x'), steps, marks }
    const seen = (of: Lesson) =>
      layoutLesson(of).pictures.map(({ picture, start, end }) => [
        (picture as { lines: string[] }).lines[0],
        start,
        end,
      ])
    expect(seen(lesson)).toEqual([
      ['a', 0, 4],
      ['second', 4, 7],
      ['third', 7, 10],
    ])
    const later = applyEdit(lesson, { name: 'setLeadIn', step: 'a', leadIn: 2 })
    expect(seen(later)[1]).toEqual(['second', 6, 9])
    const without = applyEdit(lesson, { name: 'trimPassage', passage: 'pa', from: 5, to: 10 })
    expect(seen(without)).toEqual([
      ['a', 0, 2],
      ['third', 2, 5],
    ])
    expect(layoutLesson(without).loose).toMatchObject([{ kind: 'picture', id: 'm1' }])
  })
  test('two that show the same, as after a copy was joined, are told apart', () => {
    const same = card('same')
    const more = [
      { id: 'm1', picture: same, mark: 'at 4' },
      { id: 'm2', picture: same, mark: 'nowhere' },
    ]
    const { steps } = lessonOf(step('a', 0, 10, voice, { more }))
    const { pictures, loose } = layoutLesson({ ...emptyLesson('x'), steps, marks: [markAt('at 4', 'a', take, 4)] })
    expect(pictures.map(({ further }) => further)).toEqual([null, 'm1'])
    expect(loose).toMatchObject([{ kind: 'picture', id: 'm2' }])
  })
})

describe('sounds', () => {
  const sound = (id: string, anchor: SoundCue['anchor']): SoundCue => ({
    id,
    media: bell,
    from: 0,
    to: 1,
    track: 'effect',
    anchor,
    gain: 0,
    fadeIn: 0,
    fadeOut: 0,
    meant: false,
    caption: '',
  })
  const lesson: Lesson = {
    ...lessonOf(step('a', 0, 5, voice), step('b', 5, 9, voice)),
    sounds: [
      sound('on step', { kind: 'step', step: 'b', offset: 1 }),
      sound('on word', { kind: 'mark', mark: 'k', offset: -0.5 }),
      sound('on sound', { kind: 'sound', sound: 'on word', offset: 2 }),
      sound('round', { kind: 'sound', sound: 'round', offset: 2 }),
    ],
    marks: [markAt('k', 'b', take, 6)],
  }
  const places = (of: Lesson) =>
    Object.fromEntries(layoutLesson(of).sounds.map(({ cue, start }) => [cue.id, Number(start.toFixed(6))]))

  test('hang on their step, word or sound, and go with it', () => {
    expect(places(lesson)).toEqual({ 'on step': 6, 'on word': 5.5, 'on sound': 7.5 })
    const longer = applyEdit(lesson, { name: 'setTail', step: 'a', tail: 3 })
    expect(places(longer)).toEqual({ 'on step': 9, 'on word': 8.5, 'on sound': 10.5 })
    const moved = applyEdit(lesson, { name: 'moveSteps', steps: ['b'], before: 'a' })
    expect(places(moved)).toEqual({ 'on step': 1, 'on word': 0.5, 'on sound': 2.5 })
  })

  test('are loose when that is gone, and never lost', () => {
    const deleted = applyEdit(lesson, { name: 'deleteSteps', steps: ['b'] })
    expect(deleted.sounds).toHaveLength(4)
    expect(layoutLesson(deleted).loose.map(({ id }) => id)).toEqual(['on step', 'on word', 'on sound', 'round'])
  })
})
