import { newLayer } from './layers'
import fc from 'fast-check'
import { USUAL_CLEAN_UP } from '@/core/narration/cleanUp/settings'
import { DEFAULT_READING } from '@/core/narration/speechVoice'
import {
  documentSchema,
  emptyLesson,
  newBed,
  newRecording,
  newStep,
  type Anchor,
  type Lesson,
  type Mark,
  type Passage,
  type Picture,
  type SoundCue,
  type Step,
} from './document'
import { seededRandom } from '@/core/random'
import { markAt } from '@/core/testing/lessons'
import { applyEdit, type Edit } from './edits'
import { doEdit, openHistory, redo, undo } from './history'
import { layoutLesson, stepLength } from './layout'
import { newTake } from './takes'
import { documentOf, tell } from './telling'
import { readDocument } from './upgrade'

/** Random edits of every kind, on a lesson in which something of every kind hangs on something. */

const [reading, own, deck, newDeck, film, song] = ['a', 'b', 'c', 'd', 'e', 'f'].map((letter) => letter.repeat(64)) as [
  string,
  string,
  string,
  string,
  string,
  string,
]
const page = (number: number, media = deck): Picture => ({ kind: 'still', media, page: number })
const shelf = (media: string) => ({ media, kind: 'deck' as const, title: 'x', source: '', licence: '', credit: '' })

function sound(id: string, anchor: Anchor, length = 1): SoundCue {
  const level = { gain: 0, fadeIn: 0, fadeOut: 0, meant: false }
  return { id, media: song, from: 0, to: length, track: 'effect', anchor, ...level }
}

function fullLesson(): Lesson {
  const steps = Array.from({ length: 6 }, (_, i): Step => {
    const picture: Picture =
      i === 2 ? { ...newRecording(film, 9), pins: [{ id: 'pin', at: 4, mark: 'k-pin' }] } : page(i + 1)
    return {
      ...newStep(`s${i}`, `Slide ${i + 1}`, picture),
      script: `Sentence ${i} one. Sentence ${i} two.`,
      passages: [{ id: `p${i}`, media: reading, from: i * 3, to: i * 3 + 3, pause: 0 }],
      more: i === 1 ? [{ id: 'more', picture: page(9), mark: 'k-more' }] : [],
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
    ],
    sounds: [sound('ding', { kind: 'mark', mark: 'k-sound', offset: 0.2 })],
    nudges: [{ id: 'point', anchor: { kind: 'mark', mark: 'k-point', offset: 0 }, gain: -3, shape: 'straight' }],
    bedCues: [newBed('bed', song, 's0')],
    others: { de: { said: {}, takes: [], marks: [], cleanUp: USUAL_CLEAN_UP, reading: DEFAULT_READING } },
  }
}

interface Pick {
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
  setPocket: ({ pick: { a } }) => ({ name: 'setPocket', pocket: { on: a % 2 === 0, depth: null } }),
  setTrack: ({ pick: { t } }) => ({ name: 'setTrack', track: 'bed', gain: -t, muted: false }),
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
const NAMES = Object.keys(MAKERS) as Edit['name'][]

const anyEdit = fc.record({
  kind: fc.nat(NAMES.length - 1),
  a: fc.nat(),
  b: fc.nat(),
  t: fc.double({ min: 0, max: 1, noNaN: true }),
})

function editFor(lesson: Lesson, pick: Pick, serial: number): Edit | null {
  const step = lesson.steps[pick.a % lesson.steps.length]
  const other = lesson.steps[pick.b % lesson.steps.length]
  const id = `n${serial}`
  if (!step || !other) return { name: 'addSteps', before: null, steps: [newStep(id, 'New', page(1))] }
  const passage = step.passages[pick.b % Math.max(1, step.passages.length)]
  return MAKERS[NAMES[pick.kind]!]({ lesson, step, other, passage, id, pick })
}

test('200 random edits of all kinds: all that hangs is laid or told as loose, nothing overlaps, undo is exact', () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { minLength: 200, maxLength: 200 }), (picks) => {
      let history = openHistory(fullLesson())
      const states = [JSON.stringify(history.lesson)]
      picks.forEach((pick, serial) => {
        const edit = editFor(history.lesson, pick, serial)
        if (!edit) return
        if (tried(history.lesson, edit) === null) return
        const next = doEdit(history, edit)
        if (next === history) return
        expectSound(next.lesson, serial % 10 === 0)
        expectNothingLost(history.lesson, next.lesson, edit.name)
        history = next
        states.push(JSON.stringify(history.lesson))
      })
      const last = states.length - 1
      for (let i = last; i >= 0; i--) {
        expect(JSON.stringify(history.lesson)).toBe(states[i])
        history = undo(history)
      }
      for (let i = 0; i < last; i++) history = redo(history)
      expect(JSON.stringify(history.lesson)).toBe(states[last])
    }),
    { numRuns: 12, endOnFailure: true },
  )
})

test('every kind of edit that is tried here can really be done', () => {
  const random = seededRandom(11)
  const whole = (most: number) => Math.floor(random() * most)
  const done = new Set<string>()
  let lesson = fullLesson()
  for (let i = 0; i < 60 * NAMES.length && done.size < NAMES.length; i++) {
    // A lesson that has been taken apart gives little to do.
    if (i % 400 === 0) lesson = fullLesson()
    const pick = { kind: i % NAMES.length, a: whole(1000), b: whole(1000), t: random() }
    const edit = editFor(lesson, pick, i)
    const next = edit && tried(lesson, edit)
    if (!next || next === lesson) continue
    done.add(edit.name)
    lesson = next
  }
  expect(NAMES.filter((name) => !done.has(name))).toEqual([])
})

/** Null where the edit makes no sense for the lesson. */
function tried(lesson: Lesson, edit: Edit): Lesson | null {
  try {
    return applyEdit(lesson, edit)
  } catch (error) {
    if ((error as Error).name !== 'UserError') throw error
    return null
  }
}

/** Whether a step gives time to the one before it, or takes some of the next one's. */
const borrows = ({ steps }: Lesson, index: number) =>
  steps[index]!.length.kind === 'until-next' || steps[index - 1]?.length.kind === 'until-next'

/** What must hold in every lesson whatever was done to it. */
function expectSound(lesson: Lesson, andStorable: boolean): void {
  if (andStorable) expectSameWhenStored(lesson)
  const ids = lesson.steps.flatMap((step) => [step.id, ...step.passages.map(({ id }) => id)])
  expect(new Set(ids).size).toBe(ids.length)
  expect(new Set(lesson.marks.map(({ id }) => id)).size).toBe(lesson.marks.length)

  const timeline = layoutLesson(lesson)
  timeline.steps.forEach((span, i) => {
    expect(span.start).toBe(timeline.steps[i - 1]?.end ?? 0)
    if (!borrows(lesson, i)) expect(span.end - span.start).toBeCloseTo(stepLength(span.step, lesson.lengths), 9)
  })
  expect(timeline.length).toBe(timeline.steps.at(-1)?.end ?? 0)
  // Pictures fill the lesson without a gap, and no two passages speak at once.
  timeline.pictures.forEach((span, i) => expect(span.start).toBe(timeline.pictures[i - 1]?.end ?? 0))
  timeline.passages.forEach((span, i) => {
    const previous = timeline.passages[i - 1]
    if (previous) expect(span.start).toBeGreaterThanOrEqual(previous.end - 1e-9)
  })
  expectLaidOrLoose(lesson, timeline)
}

function expectSameWhenStored(lesson: Lesson): void {
  const document = documentOf(lesson)
  expect(JSON.stringify(documentSchema.parse(document))).toBe(JSON.stringify(document))
  expect(documentOf(tell(readDocument(document), lesson.language))).toEqual(document)
}

function expectLaidOrLoose(lesson: Lesson, timeline: ReturnType<typeof layoutLesson>): void {
  const loose = (kind: string) => timeline.loose.filter((one) => one.kind === kind).length
  expect(timeline.sounds.length + loose('sound')).toBe(lesson.sounds.length)
  expect(timeline.nudges.length + loose('nudge')).toBe(lesson.nudges.length)
  expect(timeline.beds.length + loose('bed')).toBe(lesson.bedCues.length)
  const further = lesson.steps.flatMap(({ more }) => more)
  const told = new Set(timeline.loose.map(({ id }) => id))
  const seen = new Set(timeline.pictures.map(({ picture }) => picture))
  for (const { id, picture } of further) expect(told.has(id) || seen.has(picture)).toBe(true)
  for (const { picture, step, missed, unsaid } of timeline.pictures) {
    if (picture.kind !== 'recording') continue
    for (const { id } of picture.pins) {
      const isSaid = !unsaid.includes(id)
      expect(isSaid || timeline.loose.some((one) => one.kind === 'pin' && one.id === id && one.step === step)).toBe(
        true,
      )
    }
    expect(missed.every((id) => !unsaid.includes(id))).toBe(true)
  }
}

/** These take something out because the author says so, or with the step it stood in. */
const TAKES_OUT: Edit['name'][] = [
  'deleteSteps',
  'removeSounds',
  'removeNudges',
  'removePicture',
  'removeBed',
  'addBed',
  'moveBed',
  'setBed',
  'setPicture',
  'changePicture',
  'restore',
]

function expectNothingLost(before: Lesson, after: Lesson, name: Edit['name']): void {
  if (TAKES_OUT.includes(name)) return
  const there = new Set(hanging(after))
  // An empty step that is joined goes with its picture, and that with its pins.
  const lost = hanging(before, name !== 'joinStep').filter((id) => !there.has(id))
  expect([name, lost]).toEqual([name, []])
}

const hanging = ({ sounds, nudges, steps }: Lesson, withPins = true): string[] => [
  ...[...sounds, ...nudges].map(({ id }) => id),
  ...steps.flatMap(({ more }) => more.map(({ id }) => id)),
  ...steps.flatMap(({ picture }) => (withPins && picture.kind === 'recording' ? picture.pins.map(({ id }) => id) : [])),
]
