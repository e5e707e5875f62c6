import { markAt } from '@/core/testing/lessons'
import type { Lesson, Picture } from './document'
import { emptyLesson, newBed, newRecording, newStep, newStill } from './newParts'
import { applyEdit, type Edit } from './edits'
import { wordAfter } from './followWords'
import { newLayer } from './layers'
import { layoutLesson } from './layout'
import { newTake } from './takes'

const [READING, OWN, DECK, FILM, SONG] = ['a', 'b', 'c', 'd', 'e'].map((letter) => letter.repeat(64)) as [
  string,
  string,
  string,
  string,
  string,
]
const page = (number: number): Picture => newStill(DECK, number)
const SCRIPTS = ['The tide turns twice a day.', 'Read the height from the table.', 'Then add the hour.']

/** Three steps read by a stand-in, half a second a word; a sound, a further picture, a pin and music hang on words. */
function standIn(): Lesson {
  const film: Picture = { ...newRecording(FILM, 9), pins: [{ id: 'pin', at: 4, mark: 'add' }] }
  const steps = SCRIPTS.map((script, i) => ({
    ...newStep(`s${i}`, `Slide ${i + 1}`, i === 2 ? film : page(i + 1)),
    script,
    length: { kind: 'voice' as const, atLeast: 0 },
    passages: [{ id: `p${i}`, media: READING, from: i * 3, to: i * 3 + 3, pause: 0 }],
    more: i === 1 ? [{ id: 'more', picture: page(9), mark: 'height' }] : [],
  }))
  const level = { gain: 0, fadeIn: 0, fadeOut: 0, meant: false, caption: '', track: 'effect' as const }
  return {
    ...emptyLesson('Tides'),
    steps,
    takes: steps.map((step) => newTake(`t${step.id}`, READING, step, step.passages[0]!, 'read')),
    // “twice”, “height”, “add”.
    marks: [
      markAt('twice', 's0', READING, 1.5, 15),
      markAt('height', 's1', READING, 4, 9),
      markAt('add', 's2', READING, 6.5, 5),
    ],
    sounds: [{ id: 'bell', media: SONG, from: 0, to: 1, anchor: { kind: 'mark', mark: 'twice', offset: 0 }, ...level }],
    bedCues: [newBed('bed', SONG, 's0')],
  }
}
const edited = (...edits: Edit[]) => edits.reduce((now, edit) => applyEdit(now, edit), standIn())
const textAt = (lesson: Lesson, id: string) => {
  const mark = lesson.marks.find((one) => one.id === id)!
  return lesson.steps.find(({ id: step }) => step === mark.step)?.script.slice(mark.word?.character ?? Infinity)
}
const looseIn = (lesson: Lesson) => layoutLesson(lesson).loose.map(({ id }) => id)
/** Each step spoken anew, at another pace. */
const ownVoice = (lesson: Lesson): Edit => {
  const takes = lesson.steps.map((step, i) =>
    newTake(`own${i}`, OWN, step, { from: 10 + i * 5, to: 14 + i * 5 }, 'recorded'),
  )
  const heard = takes.map(({ step, from, to }, i) => ({
    step,
    passages: [{ id: `o${i}`, media: OWN, from, to, pause: 0 }],
  }))
  return { name: 'addTakes', takes, heard }
}

test('recording over a stand-in keeps what hung on its words: where they are said is guessed until they are found', () => {
  const lesson = edited(ownVoice(standIn()))
  expect(looseIn(lesson)).toEqual([])
  expect(lesson.marks).toMatchObject([
    { step: 's0', guessed: 'place', place: { media: OWN } },
    { step: 's1', guessed: 'place', place: { media: OWN } },
    { step: 's2', guessed: 'place', place: { media: OWN } },
  ])
  expect(textAt(lesson, 'twice')).toBe('twice a day.')
  // As far into the take as into the script.
  expect(lesson.marks[0]!.place!.at).toBeCloseTo(10 + (4 * 15) / SCRIPTS[0]!.length, 6)
})

test('a voice worked on elsewhere takes along what hung on the one it replaces, to the sample', () => {
  const places: [number, number][] = [
    [0, 1],
    [9, 19],
  ]
  const lesson = edited({ name: 'replaceVoice', media: READING, by: OWN, places })
  expect(lesson.marks.map(({ place }) => place)).toEqual([
    { media: OWN, at: 4 },
    { media: OWN, at: 9 },
    { media: OWN, at: 14 },
  ])
  expect(looseIn(lesson)).toEqual([])
})

test('a corrected word is the same word, also before another voice says it', () => {
  const corrected = edited({ name: 'setScript', step: 's0', script: 'At sea the tide turns thrice a day.' })
  expect(textAt(corrected, 'twice')).toBe('thrice a day.')
  const lesson = applyEdit(corrected, ownVoice(corrected))
  expect(textAt(lesson, 'twice')).toBe('thrice a day.')
  expect(looseIn(lesson)).toEqual([])
})

test('a word that is taken out of script and voice leaves what hung on it loose; pasted elsewhere, it is back', () => {
  const cut: Edit = {
    name: 'cutWords',
    step: 's0',
    cuts: [{ passage: 'p0', from: 1.4, to: 2, newPassage: 'p0+' }],
    script: 'The tide turns a day.',
  }
  const without = edited(cut)
  expect(looseIn(without)).toEqual(['bell'])
  const pasted = applyEdit(without, {
    name: 'pasteWords',
    step: 's1',
    at: null,
    pieces: [{ id: 'pasted', media: READING, from: 1.4, to: 2, pause: 0 }],
    script: `${SCRIPTS[1]} twice`,
    takes: [],
    shelf: [],
  })
  expect(looseIn(pasted)).toEqual([])
  expect(layoutLesson(pasted).sounds[0]!.start).toBeCloseTo(2.4 + 3 + 0.1, 6)
  expect(pasted.marks[0]).toMatchObject({ step: 's1', guessed: 'word' })
})

test('a cut may lie a little after the beginning of the word that goes, or of the one that stays', () => {
  const cutFrom = (from: number, to: number, script: string): Edit => ({
    name: 'cutWords',
    step: 's0',
    cuts: [{ passage: 'p0', from, to, newPassage: 'p0+' }],
    script,
  })
  // “twice” begins at 1.5: it goes, or “turns” before it does.
  expect(looseIn(edited(cutFrom(1.54, 2, 'The tide turns a day.')))).toEqual(['bell'])
  const kept = edited(cutFrom(1, 1.54, 'The tide twice a day.'))
  expect(looseIn(kept)).toEqual([])
  expect(layoutLesson(kept).sounds[0]!.start).toBe(1)
})

test('breaking before its word takes a further picture along; joining brings it back', () => {
  const at = { step: 's1', passage: 'p1', at: 3.9, scriptAt: 9, newPassage: 'p1+', newStep: 'new' }
  const broken = edited({ name: 'breakStep', ...at })
  expect(broken.steps.map(({ more }) => more.length)).toEqual([0, 0, 1])
  expect(textAt(broken, 'height')).toBe('height from the table. Then add the hour.')
  // The further picture is seen as soon as the step begins, and hides its recording: the pin in it says so.
  expect(looseIn(broken)).toEqual(['pin'])
  const joined = applyEdit(broken, { name: 'joinStep', step: 's2' })
  expect(joined.steps.map(({ more }) => more.length)).toEqual([0, 1, 0])
  // The recording stays an empty step: its pin says so.
  expect(looseIn(joined)).toEqual(['pin'])
})

test('joining a step that carries on the same picture keeps its music, gain points and further pictures', () => {
  const lesson = standIn()
  lesson.steps[1] = { ...lesson.steps[1]!, picture: page(1) }
  lesson.bedCues = [newBed('second', SONG, 's1')]
  lesson.nudges = [{ id: 'point', anchor: { kind: 'step', step: 's1', offset: 1 }, gain: -3, shape: 'smooth' }]
  const before = layoutLesson(lesson)
  const joined = applyEdit(lesson, { name: 'joinStep', step: 's1' })
  const after = layoutLesson(joined)
  expect(joined.steps.map(({ id }) => id)).toEqual(['s0', 's2'])
  expect(after.beds.map(({ start }) => start)).toEqual(before.beds.map(({ start }) => start))
  expect(after.nudges.map(({ at }) => at)).toEqual(before.nudges.map(({ at }) => at))
  expect(after.pictures.map(({ start }) => start)).toEqual([0, 4, 6])
  // And it all goes on with its words.
  const later = layoutLesson(
    applyEdit(joined, { name: 'insertPause', passage: 'p0', at: 1, length: 2, newPassage: 'x' }),
  )
  expect(later.beds[0]!.start).toBe(before.beds[0]!.start + 2)
})

test('a deck without its first page keeps the music that began there', () => {
  const lesson = standIn()
  lesson.steps[0] = { ...lesson.steps[0]!, script: '', passages: [] }
  lesson.takes = lesson.takes.filter(({ step }) => step !== 's0')
  lesson.sounds = []
  const now = { media: OWN, kind: 'deck' as const, title: '', source: '', licence: '', credit: '' }
  const pages = [
    { old: 1, now: null, change: 'gone' as const },
    { old: 2, now: 1, change: 'same' as const },
    { old: 9, now: 2, change: 'same' as const },
  ]
  const after = applyEdit(lesson, { name: 'replaceDeck', old: DECK, now, pages, added: [] })
  expect(after.steps.map(({ id }) => id)).toEqual(['s1', 's2'])
  expect(layoutLesson(after).beds).toHaveLength(1)
  expect(after.steps[0]!.more[0]!.picture).toEqual(newStill(OWN, 2))
})

test('clean-up changes nothing of what hangs on words', () => {
  const { cleanUp } = standIn()
  const lesson = edited({ name: 'setCleanUp', media: null, cleanUp: { ...cleanUp, rumble: { on: true, below: 80 } } })
  expect(layoutLesson(lesson)).toEqual({ ...layoutLesson(standIn()) })
})

test('a duplicated step has marks of its own', () => {
  const lesson = edited({ name: 'duplicateSteps', copies: [{ of: 's1', id: 'copy', passages: ['c'] }] })
  const [original, copy] = lesson.steps.slice(1, 3)
  expect(copy!.more[0]!.mark).not.toBe(original!.more[0]!.mark)
  expect(looseIn(lesson)).toEqual([])
  const alone = applyEdit(lesson, { name: 'deleteSteps', steps: ['s1'] })
  expect(looseIn(alone)).toEqual([])
})

test.each([
  ['kept', 'one two three', 'zero one two three', 'two three'],
  ['replaced', 'one two three', 'one deux three', 'deux three'],
  ['replaced by several', 'one two three', 'one deux et demi three', 'deux et demi three'],
  ['taken out', 'one two three', 'one three', undefined],
  ['all rewritten', 'one two three', 'un deux trois', 'deux trois'],
])('a word that is %s', (_, before, after, expected) => {
  const word = wordAfter(before, after, { character: 4, side: 'before' })
  expect(word ? after.slice(word.character) : undefined).toBe(expected)
})

test('what lies over a picture follows its words: with another voice, to another step, and loose when they go', () => {
  const lesson = standIn()
  const label = { ...newLayer('label', 'label'), from: 'height', to: null }
  const over = applyEdit(lesson, { name: 'addLayers', step: 's1', layers: [label, newLayer('whole', 'ring')] })
  const seen = (now: Lesson) => layoutLesson(now).layers.map(({ layer, step, start }) => [layer.id, step.id, start])
  expect(seen(over)).toEqual([
    ['label', 's1', 4],
    ['whole', 's1', 3],
  ])
  // Another voice says its word at another moment.
  const [first, second] = seen(applyEdit(over, ownVoice(over)))
  expect(first!.slice(0, 2)).toEqual(['label', 's1'])
  expect(first![2]).toBeGreaterThan(second![2] as number)
  // The next step begins before its word: it goes along, what lasts as long as the picture stays.
  const broken = applyEdit(over, { name: 'breakStep', ...breakBefore })
  expect(seen(broken).map(([id, step]) => [id, step])).toEqual([
    ['whole', 's1'],
    ['label', 's2'],
  ])
  // Its words go: it is neither seen nor lost.
  const silent = applyEdit(over, { name: 'removePassage', passage: 'p1' })
  expect(seen(silent).map(([id]) => id)).toEqual(['whole'])
  expect(looseIn(silent)).toContain('label')
})

const breakBefore = { step: 's1', passage: 'p1', at: 3.9, scriptAt: 9, newPassage: 'p1b', newStep: 'new' }
