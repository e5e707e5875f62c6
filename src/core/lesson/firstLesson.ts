import type { SpeechSegment } from '@/core/measure/speech'
import { layByPauses, wordsWithin } from '@/core/narration/lay/layByPauses'
import { jointScript, layByWords } from '@/core/narration/lay/layByWords'
import { spreadBySense } from '@/core/narration/lay/spreadBySense'
import type { Seconds } from '@/core/units'
import {
  emptyLesson,
  newBed,
  newRecording,
  newStep,
  type Lesson,
  type Picture,
  type ShelfItem,
  type Step,
  type Take,
} from './document'
import { takesFromPassages } from './takes'
import { titleFromName, type MediaInfo } from '@/core/messages/media'
import type { JobResult } from '@/core/messages/job'

/** What somebody drops to get a first lesson. Pictures in the order they are to be shown. */
export interface FirstMaterial {
  title: string
  pictures: readonly MediaInfo[]
  /** One long reading, or one for each picture. */
  voices: readonly { media: MediaInfo; speech: readonly SpeechSegment[] }[]
  music: readonly MediaInfo[]
  /** The words; a blank line stands for a change of slide. Without any they are spread over the slides by sense. */
  script?: string
  /** Where the words of `scriptToFind(material)` are said in the one long reading. */
  found?: JobResult<'align'>
}

/** Silence kept before the first word and after the last one of a reading. */
const LEAD_IN: Seconds = 0.6
const TAIL: Seconds = 0.8

/**
 * A first lesson: a step a picture, the narration laid over the steps at its pauses, the music under all of it.
 * `newId` gives an id that is not in use yet.
 */
export function firstLesson(material: FirstMaterial, newId: () => string): Lesson {
  const lesson = emptyLesson(material.title)
  if (material.pictures.length + material.voices.length > 0) lesson.steps = stepsOf(material, newId)
  lesson.takes = layVoices(lesson.steps, material, newId)
  const [song] = material.music
  const [first] = lesson.steps
  if (song && first) lesson.bedCues = [newBed(newId(), song.hash, first.id)]
  lesson.shelf = [...material.pictures, ...material.voices.map(({ media }) => media), ...material.music].map(shelfItem)
  return lesson
}

/** The words that are to be found in the one long reading (see `found`); empty where there are none. */
export const scriptToFind = (material: Pick<FirstMaterial, 'title' | 'pictures' | 'script'>): string =>
  jointScript(stepsOf(material, () => 'step')).text

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
    return [{ title: name, picture: newRecording(media.hash, media.length!) }]
  }
  return media.pages.map((title, i) => ({
    title: title || (media.pages.length > 1 ? `${name}, page ${i + 1}` : name),
    picture: { kind: 'still', media: media.hash, page: i + 1 },
  }))
}

/** Files by name as people count: `slide 2` before `slide 10`. */
export const byName = (a: { name: string }, b: { name: string }): number =>
  a.name.localeCompare(b.name, 'en', { numeric: true, sensitivity: 'base' })

/** A step a picture with its script; a card with the title where there is no picture but something to say. */
function stepsOf(
  { title, pictures, script }: Pick<FirstMaterial, 'title' | 'pictures' | 'script'>,
  newId: () => string,
) {
  const shown = pictures.flatMap((media) => picturesOf(media).map((one, i) => ({ ...one, text: media.texts[i] ?? '' })))
  if (shown.length === 0) shown.push({ title, picture: { kind: 'card', lines: [title] }, text: '' })
  const steps = shown.map((one) => newStep(newId(), one.title, one.picture))
  spreadScript(
    steps,
    shown.map((one) => `${one.title} ${one.text}`),
    script,
  )
  return steps
}

/** A part a step; a script that is not parted goes where the slides say it belongs. */
function spreadScript(steps: Step[], writtenOn: readonly string[], script = ''): void {
  const parts = scriptParts(script)
  const spread = parts.length === 1 && steps.length > 1 ? spreadBySense(parts[0]!, writtenOn) : parts
  spread.forEach((part, i) => {
    const step = steps[Math.min(i, steps.length - 1)]
    if (step) step.script = step.script ? `${step.script} ${part}` : part
  })
}

const scriptParts = (script: string): string[] =>
  script
    .split(/\n\s*\n/)
    .map((part) => part.replace(/\s+/g, ' ').trim())
    .filter(Boolean)

/** Takes of the steps; what is heard of them is put into the steps. */
function layVoices(steps: Step[], { voices, found }: FirstMaterial, newId: () => string): Take[] {
  const [reading] = voices
  const takes =
    reading && voices.length === 1 ? layReading(steps, reading, found, newId) : layEach(steps, voices, newId)
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
  return takes
}

type Voice = FirstMaterial['voices'][number]

/** By its words where they were found; by its pauses otherwise. */
function layReading(
  steps: Step[],
  { media, speech }: Voice,
  found: FirstMaterial['found'],
  newId: () => string,
): Take[] {
  const recording = { media: media.hash, length: media.length!, speech }
  const byWords = found && found.words.length > 0 ? layByWords(steps, recording, found, 'brought-in', newId) : null
  const { takes, heard } = byWords ?? layByPauses(steps, recording, 'brought-in', newId)
  for (const { step: id, passages } of heard) steps.find((step) => step.id === id)!.passages = passages
  return takes
}

/** A recording a step. */
function layEach(steps: Step[], voices: readonly Voice[], newId: () => string): Take[] {
  voices.forEach(({ media, speech }, i) => {
    const step = steps[Math.min(i, steps.length - 1)]
    step?.passages.push({ id: newId(), media: media.hash, ...wordsWithin(speech, media.length!), pause: 0 })
  })
  return takesFromPassages(steps, 'brought-in', newId)
}
