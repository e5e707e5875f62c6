import type { SpeechSegment } from '@/core/measure/speech'
import { layByPauses, wordsWithin } from '@/core/narration/lay/layByPauses'
import { jointScript, layByWords } from '@/core/narration/lay/layByWords'
import { spreadBySense } from '@/core/narration/lay/spreadBySense'
import type { Seconds } from '@/core/units'
import { readScript } from '@/core/narration/words/script'
import type { Lesson, Step, Take } from './document'
import { emptyLesson, newBed, newStep } from './newParts'
import { picturesOf, shelfItem, shownPicturesOf, stepOfPicture } from './fromFile'
import { newTake, takesFromPassages } from './takes'
import type { MediaInfo } from '@/core/messages/media'
import type { JobResult } from '@/core/messages/job'

/** What somebody drops to get a first lesson. Pictures in the order they are to be shown. */
export interface FirstMaterial {
  title: string
  pictures: readonly MediaInfo[]
  /** One long reading, or one for each picture. */
  voices: readonly { media: MediaInfo; speech: readonly SpeechSegment[] }[]
  music: readonly MediaInfo[]
  /**
   * The words; a blank line stands for a change of slide. Without any they are spread over the slides by sense. Where there
   * is no script, the notes of a deck are it.
   */
  script?: string
  /** Whether pages that a deck leaves out are shown. */
  withHidden?: boolean
  /** Scripts as a synthesised voice has read them; they stand in where nobody has said them. */
  standIns?: readonly { script: string; media: MediaInfo }[]
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
  lesson.takes = [...layVoices(lesson.steps, material, newId), ...layStandIns(lesson.steps, material, newId)]
  setEdges(lesson.steps)
  const [song] = material.music
  const [first] = lesson.steps
  if (song && first) lesson.bedCues = [newBed(newId(), song.hash, first.id)]
  lesson.shelf = [...material.pictures, ...material.voices.map(({ media }) => media), ...material.music].map(shelfItem)
  return lesson
}

type Shown = Pick<FirstMaterial, 'title' | 'pictures' | 'script' | 'withHidden'>

/** The words that are to be found in the one long reading (see `found`); empty where there are none. */
export const scriptToFind = (material: Shown): string => jointScript(stepsOf(material, () => 'step')).text

/** What a synthesised voice is to read, a script a step (see `standIns`). */
export const scriptsToRead = (material: Shown): string[] => [
  ...new Set(stepsOf(material, () => 'step').flatMap(({ script }) => (hasWords(script) ? [script] : []))),
]

/** What tells the language: what is to be said, or where nothing is, what stands on the pictures. */
export const writtenWords = (material: Shown): string =>
  scriptsToRead(material).join('\n') ||
  material.pictures
    .flatMap(picturesOf)
    .map(({ text }) => text)
    .join('\n')
    .trim()

const hasWords = (script: string) => readScript(script).words.length > 0

/** A step a picture with its script; a card with the title where there is no picture but something to say. */
function stepsOf({ title, pictures, script, withHidden }: Shown, newId: () => string): Step[] {
  const shown = pictures.flatMap(withHidden ? picturesOf : shownPicturesOf)
  if (shown.length === 0)
    return withScript([newStep(newId(), title, { kind: 'card', lines: [title] })], [title], script)
  const steps = shown.map((one) => stepOfPicture(newId(), one))
  if (!script?.trim()) return steps
  const writtenOn = shown.map((one) => `${one.title} ${one.text}`)
  return withScript(
    steps.map((step) => ({ ...step, script: '' })),
    writtenOn,
    script,
  )
}

function withScript(steps: Step[], writtenOn: readonly string[], script: string | undefined): Step[] {
  spreadScript(steps, writtenOn, script)
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
  return reading && voices.length === 1 ? layReading(steps, reading, found, newId) : layEach(steps, voices, newId)
}

/** What nobody has said is heard as a synthesised voice has read it. */
function layStandIns(steps: Step[], { standIns = [] }: FirstMaterial, newId: () => string): Take[] {
  return steps.flatMap((step) => {
    const read = step.passages.length === 0 && standIns.find(({ script }) => script === step.script)
    if (!read) return []
    const span = { from: 0, to: read.media.length! }
    step.passages = [{ id: newId(), media: read.media.hash, ...span, pause: 0 }]
    return [newTake(newId(), read.media.hash, step, span, 'read')]
  })
}

/** With words a step is as long as they are, and a recording still plays to its end; the first and last words have room. */
function setEdges(steps: Step[]): void {
  const spoken = steps.filter(({ passages }) => passages.length > 0)
  for (const step of spoken) if (step.picture.kind !== 'recording') step.length = { kind: 'voice', atLeast: 1 }
  const [first, last] = [spoken[0], spoken.at(-1)]
  if (first) first.leadIn = LEAD_IN
  if (last) last.tail = TAIL
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
