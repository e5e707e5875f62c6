import type { SpeechSegment } from '@/core/measure/speech'
import { chooseBreaks } from '@/core/narration/breaks'
import type { Seconds } from '@/core/units'
import { emptyLesson, newStep, type Lesson, type Picture, type ShelfItem, type Step } from './document'
import { takesFromPassages } from './takes'
import { titleFromName, type MediaInfo } from './media'

/** What somebody drops to get a first lesson. Pictures in the order they are to be shown. */
export interface FirstMaterial {
  title: string
  pictures: readonly MediaInfo[]
  /** One long reading, or one for each picture. */
  voices: readonly { media: MediaInfo; speech: readonly SpeechSegment[] }[]
  music: readonly MediaInfo[]
  /** The words; a blank line stands for a change of slide. */
  script?: string
}

/** Silence kept before the first word and after the last one of a reading. */
const LEAD_IN: Seconds = 0.6
const TAIL: Seconds = 0.8
/** Kept of the take around its words. */
const MARGIN: Seconds = 0.25

/**
 * A first lesson: a step a picture, the narration laid over the steps at its pauses, the music under all of it.
 * `newId` gives an id that is not in use yet.
 */
export function firstLesson(material: FirstMaterial, newId: () => string): Lesson {
  const lesson = emptyLesson(material.title)
  lesson.steps = material.pictures.flatMap((media) =>
    picturesOf(media).map(({ title, picture }) => newStep(newId(), title, picture)),
  )
  if (lesson.steps.length === 0 && material.voices.length > 0) {
    lesson.steps = [newStep(newId(), material.title, { kind: 'card', lines: [material.title] })]
  }
  spreadScript(lesson.steps, material.script)
  layVoices(lesson.steps, material, newId)
  lesson.takes = takesFromPassages(lesson.steps, 'brought-in', newId)
  const [song] = material.music
  const [first] = lesson.steps
  if (song && first) lesson.bedCues = [{ id: newId(), media: song.hash, step: first.id }]
  lesson.shelf = [...material.pictures, ...material.voices.map(({ media }) => media), ...material.music].map(shelfItem)
  return lesson
}

/** What a file looks like on the shelf before the author says more about it. */
export const shelfItem = (media: MediaInfo): ShelfItem => ({
  media: media.hash,
  kind: media.kind,
  title: titleFromName(media.name),
  source: media.name,
  licence: '',
  credit: '',
})

/** The pictures a file gives: a page each, or the whole recording. Empty for sounds. */
export function picturesOf(media: MediaInfo): { title: string; picture: Picture }[] {
  const name = titleFromName(media.name)
  if (media.kind === 'recording') {
    return [{ title: name, picture: { kind: 'recording', media: media.hash, from: 0, to: media.length!, gain: null } }]
  }
  return media.pages.map((title, i) => ({
    title: title || (media.pages.length > 1 ? `${name}, page ${i + 1}` : name),
    picture: { kind: 'still', media: media.hash, page: i + 1 },
  }))
}

/** Files by name as people count: `slide 2` before `slide 10`. */
export const byName = (a: { name: string }, b: { name: string }): number =>
  a.name.localeCompare(b.name, 'en', { numeric: true, sensitivity: 'base' })

function spreadScript(steps: Step[], script?: string): void {
  const parts = (script ?? '')
    .split(/\n\s*\n/)
    .map((part) => part.replace(/\s+/g, ' ').trim())
    .filter(Boolean)
  parts.forEach((part, i) => {
    const step = steps[Math.min(i, steps.length - 1)]
    if (step) step.script = step.script ? `${step.script} ${part}` : part
  })
}

function layVoices(steps: Step[], { voices }: FirstMaterial, newId: () => string): void {
  if (voices.length === 1) layReading(steps, voices[0]!, newId)
  else {
    voices.forEach(({ media, speech }, i) => {
      const step = steps[Math.min(i, steps.length - 1)]
      step?.passages.push({ id: newId(), media: media.hash, ...wordsIn(speech, media.length!), pause: 0 })
    })
  }
  for (const step of steps) {
    if (step.passages.length === 0) continue
    // With words the step is as long as they are; a recording still plays to its end.
    if (step.picture.kind !== 'recording') step.length = { kind: 'voice', atLeast: 1 }
  }
  const spoken = steps.filter(({ passages }) => passages.length > 0)
  if (spoken.length > 0) {
    spoken[0]!.leadIn = LEAD_IN
    spoken.at(-1)!.tail = TAIL
  }
}

function layReading(steps: Step[], { media, speech }: FirstMaterial['voices'][number], newId: () => string): void {
  const { from, to } = wordsIn(speech, media.length!)
  const edges = [from, ...chooseBreaks(speech, expectedShares(steps)), to]
  edges.slice(0, -1).forEach((start, i) => {
    steps[i]?.passages.push({ id: newId(), media: media.hash, from: start, to: edges[i + 1]!, pause: 0 })
  })
}

/** Where every step has its script, its letters tell how much is said on it; else all are alike. */
function expectedShares(steps: readonly Step[]): number[] {
  const known = steps.every(({ script }) => script.length > 0)
  return steps.map(({ script }) => (known ? script.length : 1))
}

function wordsIn(speech: readonly SpeechSegment[], length: Seconds): { from: Seconds; to: Seconds } {
  if (speech.length === 0) return { from: 0, to: length }
  return { from: Math.max(0, speech[0]!.start - MARGIN), to: Math.min(length, speech.at(-1)!.end + MARGIN) }
}
