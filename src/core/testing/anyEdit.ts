import fc from 'fast-check'
import { USUAL_CLEAN_UP } from '@/core/narration/cleanUp/settings'
import { DEFAULT_READING } from '@/core/narration/speechVoice'
import type { Anchor, Lesson, Mark, Passage, Picture, SoundCue, Step } from '@/core/lesson/document'
import { emptyLesson, newBed, newRecording, newStep, newStill } from '@/core/lesson/newParts'
import { applyEdit, type Edit } from '@/core/lesson/edits'
import { FRAME_LINES, FRAME_RATES, FRAME_SHAPES } from '@/core/lesson/framing'
import { newLayer } from '@/core/lesson/layers'
import { newTake } from '@/core/lesson/takes'
import { markAt } from './lessons'

/** Edits of every kind by chance, and a lesson to do them to. */

const [reading, own, deck, newDeck, film, song] = ['a', 'b', 'c', 'd', 'e', 'f'].map((letter) => letter.repeat(64)) as [
  string,
  string,
  string,
  string,
  string,
  string,
]
const page = (number: number, media = deck): Picture => newStill(media, number)
const shelf = (media: string) => ({ media, kind: 'deck' as const, title: 'x', source: '', licence: '', credit: '' })

function sound(id: string, anchor: Anchor, length = 1): SoundCue {
  const level = { gain: 0, fadeIn: 0, fadeOut: 0, meant: false, caption: '' }
  return { id, media: song, from: 0, to: length, track: 'effect', anchor, ...level }
}

/** Six steps on one reading, in which something of every kind hangs on something. */
export function fullLesson(): Lesson {
  const steps = Array.from({ length: 6 }, (_, i): Step => {
    const picture: Picture =
      i === 2 ? { ...newRecording(film, 9), pins: [{ id: 'pin', at: 4, mark: 'k-pin' }] } : page(i + 1)
    return {
      ...newStep(`s${i}`, `Slide ${i + 1}`, picture),
      script: `Sentence ${i} one. Sentence ${i} two.`,
      passages: [{ id: `p${i}`, media: reading, from: i * 3, to: i * 3 + 3, pause: 0 }],
      more: i === 1 ? [{ id: 'more', picture: page(9), mark: 'k-more' }] : [],
      layers:
        i === 4
          ? [
              { ...newLayer('label', 'label'), from: 'k-from', to: 'k-to' },
              { ...newLayer('ring', 'ring'), from: null, to: 'k-to' },
            ]
          : [],
    }
  })
  return {
    ...emptyLesson('Knots'),
    steps,
    takes: steps.map((step) => newTake(`t-${step.id}`, reading, step, step.passages[0]!, 'read')),
    marks: [
      markAt('k-more', 's1', reading, 4.5, 16),
      markAt('k-pin', 's2', reading, 7.5, 16),
      markAt('k-sound', 's3', reading, 10, 9),
      markAt('k-point', 's4', reading, 13, 0),
      markAt('k-from', 's4', reading, 12.5, 0),
      markAt('k-to', 's4', reading, 14, 16),
      markAt('k-bed', 's3', reading, 10.5, 16),
    ],
    sounds: [
      sound('ding', { kind: 'mark', mark: 'k-sound', offset: 0.2 }),
      sound('dong', { kind: 'sound', sound: 'ding', offset: 0.5 }),
      sound('gull', { kind: 'step', step: 's5', offset: 0.5 }),
    ],
    nudges: [
      { id: 'point', anchor: { kind: 'mark', mark: 'k-point', offset: 0 }, gain: -3, shape: 'straight' },
      { id: 'on-step', anchor: { kind: 'step', step: 's5', offset: 0.2 }, gain: 0, shape: 'smooth' },
    ],
    bedCues: [
      { ...newBed('bed', song, 's0'), last: 's1' },
      { ...newBed('on-word', song, 's3'), begins: { kind: 'mark', mark: 'k-bed' }, last: 's4' },
    ],
    others: {
      de: { said: {}, takes: [], marks: [], cleanUp: USUAL_CLEAN_UP, reading: DEFAULT_READING, captionCorrections: [] },
    },
  }
}

/** By chance: which kind of edit, and where. */
export interface Pick {
  kind: number
  a: number
  b: number
  t: number
}

/** Makes an edit that fits the lesson as it then stands; null where there is nothing to do it to. */
type Maker = (at: {
  lesson: Lesson
  step: Step
  other: Step
  passage: Passage | undefined
  id: string
  pick: Pick
}) => Edit | null

/** Each kind of edit has one: a new kind that has none is an error of the types. */
const MAKERS: { [N in Edit['name']]: Maker } = {
  renameLesson: ({ id }) => ({ name: 'renameLesson', title: id }),
  addSteps: ({ id, other }) => ({ name: 'addSteps', before: other.id, steps: [newStep(id, 'New', page(2))] }),
  moveSteps: ({ step, other, pick: { a } }) => {
    const steps = [...new Set([step.id, other.id])]
    return { name: 'moveSteps', steps, before: a % 3 ? other.id : null }
  },
  duplicateSteps: ({ step, id }) => {
    const passages = step.passages.map((_, i) => `${id}p${i}`)
    return { name: 'duplicateSteps', copies: [{ of: step.id, id, passages }] }
  },
  deleteSteps: ({ step }) => ({ name: 'deleteSteps', steps: [step.id] }),
  pasteSteps: ({ other, id }) => {
    const step = { ...newStep(id, 'Pasted', page(1)), more: [{ id: `${id}m`, picture: page(2), mark: `${id}k` }] }
    const said = { ...step, passages: [{ id: `${id}p`, media: own, from: 1, to: 3, pause: 0 }] }
    const marks = [markAt(`${id}k`, id, own, 2)]
    return { name: 'pasteSteps', before: other.id, steps: [said], takes: [], marks, shelf: [] }
  },
  renameStep: ({ step, id }) => ({ name: 'renameStep', step: step.id, title: id }),
  setPicture: ({ step, pick: { t } }) => {
    const picture = step.picture.kind === 'recording' ? { ...step.picture, from: t } : page(Math.ceil(t * 9))
    return { name: 'setPicture', step: step.id, picture }
  },
  setScript: ({ step, pick: { a, b } }) => {
    const words = step.script.split(' ')
    words.splice(b % (words.length + 1), a % 3, ...(b % 2 ? ['corrected'] : []))
    return { name: 'setScript', step: step.id, script: words.join(' ') }
  },
  splitRecording: ({ step, id }) => {
    const { picture } = step
    if (picture.kind !== 'recording' || picture.to - picture.from < 0.5) return null
    const middle = (picture.from + picture.to) / 2
    const [first, second] = [
      { ...picture, to: middle, pins: picture.pins.filter(({ at }) => at < middle) },
      { ...picture, from: middle, pins: picture.pins.filter(({ at }) => at >= middle) },
    ]
    const parts = [
      { id: `${id}0`, picture: first, at: 0, scriptAt: 0 },
      { id, picture: second, at: 1.5, scriptAt: 9 },
    ]
    return { name: 'splitRecording', step: step.id, parts }
  },
  setLength: ({ step, pick: { b, t } }) => {
    const lengths = [
      { kind: 'fixed' as const, length: t * 9 },
      { kind: 'voice' as const, atLeast: t * 5 },
      { kind: 'until-next' as const, atLeast: t },
      { kind: 'lesson' as const },
    ]
    return { name: 'setLength', step: step.id, length: lengths[b % 4]! }
  },
  setLengthOf: ({ step, other, pick: { t } }) => {
    return { name: 'setLengthOf', steps: [step.id, other.id], length: { kind: 'voice', atLeast: t } }
  },
  setLeadIn: ({ step, pick: { t } }) => ({ name: 'setLeadIn', step: step.id, leadIn: t * 2 }),
  setTail: ({ step, pick: { t } }) => ({ name: 'setTail', step: step.id, tail: t * 2 }),
  placePassage: ({ step, id, pick: { t } }) => {
    const passage = { id: `${id}p`, media: reading, from: t * 5, to: t * 5 + 1, pause: 0 }
    return { name: 'placePassage', step: step.id, index: 0, passage }
  },
  trimPassage: ({ passage, pick: { t } }) =>
    passage ? { name: 'trimPassage', passage: passage.id, from: passage.from + t / 4, to: passage.to + t / 4 } : null,
  removePassage: ({ passage }) => (passage ? { name: 'removePassage', passage: passage.id } : null),
  breakStep: ({ step, passage, id, pick: { b, t } }) => {
    if (!passage) return null
    const at = passage.from + t * (passage.to - passage.from)
    const made = { newPassage: `${id}b`, newStep: id }
    return { name: 'breakStep', step: step.id, passage: passage.id, at, scriptAt: b % 30, ...made }
  },
  joinStep: ({ step }) => ({ name: 'joinStep', step: step.id }),
  replaceDeck: ({ lesson, id, pick: { a } }) => {
    const old = lesson.steps.some(({ picture }) => picture.kind === 'still' && picture.media === deck) ? deck : newDeck
    const now = shelf(old === deck ? newDeck : deck)
    // The first page is gone, a new one comes after the second.
    const pages = [2, 3, 4, 5, 6, 9].map((number, i) => ({ old: number, now: i + 2, change: 'same' as const }))
    const gone = { old: 1, now: null, change: 'gone' as const }
    return {
      name: 'replaceDeck',
      old,
      now,
      pages: [gone, ...pages],
      added: a % 2 ? [{ page: 1, id, title: 'New', script: 'What is new.' }] : [],
    }
  },
  addLayers: ({ step, id, pick: { b } }) => {
    const name = (['title', 'ring', 'cover', 'closer'] as const)[b % 4]!
    return { name: 'addLayers', step: step.id, layers: [newLayer(id, name)] }
  },
  setLayer: ({ step, pick: { t } }) => {
    const [layer] = step.layers
    return layer ? { name: 'setLayer', step: step.id, layer: { ...layer, area: { ...layer.area, x: t } } } : null
  },
  removeLayer: ({ step }) => (step.layers[0] ? { name: 'removeLayer', step: step.id, id: step.layers[0].id } : null),
  moveLayer: ({ step, pick: { a } }) =>
    step.layers[0] ? { name: 'moveLayer', step: step.id, id: step.layers.at(-1)!.id, by: a % 2 ? 1 : -1 } : null,
  setEdges: ({ step, other, pick: { a, t } }) => ({
    name: 'setEdges',
    steps: [step.id, other.id],
    edge: a % 3 ? { kind: 'dissolve', length: 0.1 + t } : null,
  }),
  setLessonEdge: ({ pick: { t } }) => ({ name: 'setLessonEdge', edge: { kind: 'push', length: 0.1 + t } }),
  setEnds: ({ pick: { t } }) => ({ name: 'setEnds', opening: t, closing: 1 - t }),
  correctCaptions: ({ lesson, step, id, pick: { a } }) => ({
    name: 'correctCaptions',
    put: [{ words: step.script || 'x', text: a % 3 ? `${id}\n${step.script}`.slice(0, 500) : '' }],
    remove: lesson.captionCorrections.slice(0, a % 2).map(({ words }) => words),
  }),
  setLook: ({ lesson, pick: { a } }) => ({ name: 'setLook', look: { ...lesson.look, boxed: a % 2 === 0 } }),
  addBed: ({ step, id }) => ({ name: 'addBed', cue: newBed(id, song, step.id) }),
  moveBed: ({ lesson, step, pick: { a } }) => {
    const cue = lesson.bedCues[a % Math.max(1, lesson.bedCues.length)]
    return cue ? { name: 'moveBed', cue: cue.id, step: step.id } : null
  },
  setBed: ({ lesson, step, pick: { a } }) => {
    const cue = lesson.bedCues[a % Math.max(1, lesson.bedCues.length)]
    return cue ? { name: 'setBed', cue: { ...cue, last: step.id } } : null
  },
  removeBed: ({ lesson }) => (lesson.bedCues[1] ? { name: 'removeBed', cue: lesson.bedCues[1].id } : null),
  setTarget: ({ pick: { t } }) => ({ name: 'setTarget', target: 'clearance', value: 3 + t * 30 }),
  putOnShelf: ({ pick: { a } }) => ({ name: 'putOnShelf', items: [shelf(a % 2 ? song : '0'.repeat(64))] }),
  swapMedia: ({ pick: { a } }) => ({
    name: 'swapMedia',
    media: String(a % 2).repeat(64),
    by: String((a + 1) % 2).repeat(64),
  }),
  describeMedia: ({ lesson, id }) => {
    return lesson.shelf[0] ? { name: 'describeMedia', item: { ...lesson.shelf[0], title: id } } : null
  },
  takeOffShelf: ({ lesson }) => {
    const unused = lesson.shelf.find(({ media }) => media === '0'.repeat(64))
    return unused ? { name: 'takeOffShelf', media: unused.media } : null
  },
  addTakes: ({ step, other, id, pick: { a, t } }) => {
    // A voice of one's own over what was there; a recording that goes on has several steps in one file.
    const media = String(a % 10).repeat(64)
    const parts = a % 2 && step !== other ? [step, other] : [step]
    const from = (i: number) => i * 4 + t
    const takes = parts.map((one, i) =>
      newTake(`${id}t${i}`, media, one, { from: from(i), to: from(i) + 3.5 }, 'recorded'),
    )
    const heard = takes.map((take, i) => ({
      step: take.step,
      passages: [{ id: `${id}p${i}`, media, from: take.from, to: take.to, pause: 0 }],
    }))
    return { name: 'addTakes', takes, heard }
  },
  chooseParts: ({ lesson, step, id, pick: { a } }) => {
    const takes = lesson.takes.filter((take) => take.step === step.id && !take.removed)
    const take = takes[a % Math.max(1, takes.length)]
    if (!take) return null
    const passage = { id: `${id}c`, media: take.media, from: take.from, to: take.to, pause: 0 }
    return { name: 'chooseParts', step: step.id, passages: [passage] }
  },
  renameTake: ({ lesson, id }) =>
    lesson.takes[0] ? { name: 'renameTake', take: lesson.takes[0].id, title: id } : null,
  removeTake: ({ lesson, pick: { a } }) => {
    return lesson.takes.length > 0 ? { name: 'removeTake', take: lesson.takes[a % lesson.takes.length]!.id } : null
  },
  restoreTake: ({ lesson, pick: { a } }) => {
    return lesson.takes.length > 0 ? { name: 'restoreTake', take: lesson.takes[a % lesson.takes.length]!.id } : null
  },
  setCleanUp: ({ passage, pick: { a } }) => {
    return { name: 'setCleanUp', media: a % 2 && passage ? passage.media : null, cleanUp: USUAL_CLEAN_UP }
  },
  setReading: () => ({ name: 'setReading', reading: { ...DEFAULT_READING, rate: 150 } }),
  setLanguage: ({ pick: { a } }) => ({ name: 'setLanguage', language: a % 2 ? 'en-gb' : 'fr' }),
  shortenPauses: ({ passage, id, pick: { t } }) => {
    if (!passage) return null
    const from = passage.from + (t * (passage.to - passage.from)) / 2
    return { name: 'shortenPauses', cuts: [{ passage: passage.id, from, to: from + 0.1, newPassage: `${id}s` }] }
  },
  insertPause: ({ passage, id, pick: { t } }) => {
    if (!passage) return null
    const at = passage.from + t * (passage.to - passage.from)
    return { name: 'insertPause', passage: passage.id, at, length: t, newPassage: `${id}i` }
  },
  setPause: ({ passage, pick: { t } }) => (passage ? { name: 'setPause', passage: passage.id, length: t } : null),
  replaceVoice: ({ passage, pick: { a, t } }) => {
    if (!passage) return null
    return {
      name: 'replaceVoice',
      media: passage.media,
      by: String(a % 10).repeat(64),
      places: [
        [0, t],
        [10, 10 + 2 * t],
      ],
    }
  },
  cutWords: ({ step, passage, id, pick: { t } }) => {
    if (!passage) return null
    const length = passage.to - passage.from
    const cut = { passage: passage.id, from: passage.from + (t * length) / 2, to: passage.to - (t * length) / 3 }
    const script = step.script.split(' ').slice(1).join(' ')
    return { name: 'cutWords', step: step.id, cuts: [{ ...cut, newPassage: `${id}c` }], script }
  },
  pasteWords: ({ step, passage, id, pick: { t } }) => {
    const at = passage ? { passage: passage.id, at: passage.from + t, newPassage: `${id}l` } : null
    const pieces = [{ id: `${id}p`, media: reading, from: t * 12, to: t * 12 + 1, pause: 0 }]
    return { name: 'pasteWords', step: step.id, at, pieces, script: `${step.script} pasted`, takes: [], shelf: [] }
  },
  retimeWord: ({ lesson, pick: { t } }) => {
    return lesson.takes[0]
      ? { name: 'retimeWord', take: lesson.takes[0].id, character: 0, start: t, end: t + 0.2 }
      : null
  },
  placeMarks: ({ lesson, step, passage, pick: { a, t } }) => {
    const mark = lesson.marks[a % Math.max(1, lesson.marks.length)]
    if (!mark || !passage) return null
    const place = { media: passage.media, at: passage.from + t * (passage.to - passage.from) * 0.99 }
    const now: Mark = { ...mark, step: step.id, word: { character: 0, side: 'before' }, place, guessed: 'word' }
    return { name: 'placeMarks', marks: [now] }
  },
  showHidden: ({ lesson }) => {
    const hiding = lesson.steps.flatMap(({ passages }) =>
      passages.filter(({ media, from }, i) => i > 0 && passages[i - 1]!.media === media && passages[i - 1]!.to < from),
    )
    return hiding[0] ? { name: 'showHidden', passage: hiding[0].id } : null
  },
  acceptScript: ({ step }) => ({ name: 'acceptScript', step: step.id }),
  addSounds: ({ lesson, step, id, pick: { a, b, t } }) => {
    const mark = lesson.marks[a % Math.max(1, lesson.marks.length)]
    const anchors: Anchor[] = [{ kind: 'step', step: step.id, offset: t }]
    if (mark) anchors.push({ kind: 'mark', mark: mark.id, offset: t })
    if (lesson.sounds[0]) anchors.push({ kind: 'sound', sound: lesson.sounds[0].id, offset: t })
    return { name: 'addSounds', sounds: [sound(id, anchors[b % anchors.length]!, 1 + t)] }
  },
  setSound: ({ lesson, pick: { t } }) => {
    return lesson.sounds[0] ? { name: 'setSound', sound: { ...lesson.sounds[0], gain: -t } } : null
  },
  removeSounds: ({ lesson }) => (lesson.sounds[1] ? { name: 'removeSounds', sounds: [lesson.sounds[1].id] } : null),
  setNudges: ({ step, id, pick: { t } }) => {
    const anchor = { kind: 'step' as const, step: step.id, offset: t * 3 }
    return { name: 'setNudges', nudges: [{ id, anchor, gain: -6 * t, shape: 'straight' }] }
  },
  removeNudges: ({ lesson }) => (lesson.nudges[1] ? { name: 'removeNudges', nudges: [lesson.nudges[1].id] } : null),
  setPocket: ({ pick: { a } }) => ({ name: 'setPocket', pocket: { on: a % 2 === 0, depth: null, nearer: a % 3 } }),
  setEvenStrokes: ({ pick: { a } }) => ({ name: 'setEvenStrokes', on: a % 2 === 0 }),
  setTrack: ({ pick: { t } }) => ({ name: 'setTrack', track: 'bed', gain: -t, muted: false }),
  setFrame: ({ pick: { a } }) => ({
    name: 'setFrame',
    frame: { shape: FRAME_SHAPES[a % 4]!, lines: FRAME_LINES[a % 4]!, rate: FRAME_RATES[a % 4]! },
  }),
  setLessonFraming: ({ pick: { t } }) => ({
    name: 'setLessonFraming',
    framing: { way: 'fill', ground: 'blurred', middle: { x: t, y: 1 - t } },
  }),
  setChapter: ({ step, id, pick: { a } }) => ({
    name: 'setChapter',
    step: step.id,
    chapter: a % 3 ? { begins: a % 2 === 0, title: id } : null,
  }),
  setLengths: ({ pick: { t } }) => ({ name: 'setLengths', lengths: { leadIn: t, tail: t, atLeast: 1 } }),
  addPicture: ({ lesson, step, id, pick: { a } }) => {
    const mark = lesson.marks[a % Math.max(1, lesson.marks.length)]
    return mark ? { name: 'addPicture', step: step.id, id, picture: page(3), mark: mark.id } : null
  },
  changePicture: ({ step, pick: { t } }) => {
    const [one] = step.more
    return one ? { name: 'changePicture', step: step.id, ...one, picture: page(Math.ceil(t * 9)) } : null
  },
  removePicture: ({ step }) => {
    return step.more[1] ? { name: 'removePicture', step: step.id, id: step.more[1].id } : null
  },
  restore: ({ lesson }) => ({ name: 'restore', lesson: { ...lesson, title: 'restored' } }),
}
export const EDIT_NAMES = Object.keys(MAKERS) as Edit['name'][]

export const anyEdit = fc.record({
  kind: fc.nat(EDIT_NAMES.length - 1),
  a: fc.nat(),
  b: fc.nat(),
  t: fc.double({ min: 0, max: 1, noNaN: true }),
})

/** The edit that was picked, as it fits the lesson; null where there is nothing to do it to. */
export function editFor(lesson: Lesson, pick: Pick, serial: number): Edit | null {
  const step = lesson.steps[pick.a % lesson.steps.length]
  const other = lesson.steps[pick.b % lesson.steps.length]
  const id = `n${serial}`
  if (!step || !other) return { name: 'addSteps', before: null, steps: [newStep(id, 'New', page(1))] }
  const passage = step.passages[pick.b % Math.max(1, step.passages.length)]
  return MAKERS[EDIT_NAMES[pick.kind]!]({ lesson, step, other, passage, id, pick })
}

/** Null where the edit makes no sense for the lesson. */
export function tried(lesson: Lesson, edit: Edit): Lesson | null {
  try {
    return applyEdit(lesson, edit)
  } catch (error) {
    if ((error as Error).name !== 'UserError') throw error
    return null
  }
}
