import { readScript } from '@/core/narration/words/script'

/** As a document of format 2 was, as far as it has to be changed. */
interface Format2 {
  steps: StepOf2[]
  takes: { step: string; media: string; from: number; to: number }[]
  cleanUp: object
  reading: object
  language: string
  bedCues: { step: string }[]
  sounds: { anchor: { kind: string; said?: SaidOf2; offset: number } }[]
  nudges: { id: string; step: string; offset: number; gain: number; shape: string }[]
}

interface StepOf2 {
  id: string
  script: string
  passages: PassageOf2[]
  picture: PictureOf2
  more: { id: string; picture: PictureOf2; said: SaidOf2 }[]
}

interface PassageOf2 {
  media: string
  from: number
  to: number
}
interface PictureOf2 {
  kind: string
  pins?: { id: string; at: number; said: SaidOf2 }[]
}
/** What hung on words in format 2 hung on a place in a file. */
interface SaidOf2 {
  media: string
  at: number
}

interface MarkOf3 {
  id: string
  step: string
  word: { character: number; side: 'before' } | null
  place: SaidOf2
  guessed: 'word' | null
}

/**
 * Format 2 knew one language, and no marks: a mark is made for each place on which something hung. Which word it is can
 * only be guessed here, since the words of the takes are found later.
 */
export function upgradeFormat2(json: object): object {
  const { steps, takes, cleanUp, reading, language, bedCues, sounds, nudges, ...rest } = json as Format2
  const marks: MarkOf3[] = []
  const markFor = (said: SaidOf2, step?: string): string => {
    const made = markAt(steps, takes, said, step, `mark-${marks.length + 1}`)
    const same = marks.find(
      (one) => one.step === made.step && one.place.media === said.media && one.place.at === said.at,
    )
    if (!same) marks.push(made)
    return (same ?? made).id
  }
  const shown = steps.map(({ script: _, passages: __, ...step }) => ({
    ...step,
    picture: hungOnMarks(step.picture, (said) => markFor(said, step.id)),
    more: step.more.map(({ id, picture, said }) => ({
      id,
      picture: hungOnMarks(picture, (one) => markFor(one, step.id)),
      mark: markFor(said, step.id),
    })),
  }))
  const hung = sounds.map((cue) => {
    const { kind, said, offset } = cue.anchor
    return kind === 'said' && said ? { ...cue, anchor: { kind: 'mark', mark: markFor(said), offset } } : cue
  })
  const said = Object.fromEntries(steps.map(({ id, script, passages }) => [id, { script, passages }]))
  return {
    ...rest,
    format: 3,
    steps: shown,
    narrations: { [language]: { said, takes, marks, cleanUp, reading } },
    language,
    bedCues: bedCues.map(({ step, ...cue }) => ({ ...cue, begins: { kind: 'step', step } })),
    sounds: hung,
    nudges: nudges.map(({ step, offset, ...nudge }) => ({ ...nudge, anchor: { kind: 'step', step, offset } })),
  }
}

function hungOnMarks(picture: PictureOf2, markFor: (said: SaidOf2) => string): object {
  if (!picture.pins) return picture
  return { ...picture, pins: picture.pins.map(({ id, at, said }) => ({ id, at, mark: markFor(said) })) }
}

/** The mark of a place: in the step that says it, rather `wanted`; in that of its take where nobody does any more. */
function markAt(
  steps: readonly StepOf2[],
  takes: Format2['takes'],
  place: SaidOf2,
  wanted: string | undefined,
  id: string,
): MarkOf3 {
  const has = ({ media, from, to }: PassageOf2) => media === place.media && place.at >= from && place.at < to
  const saying = steps.filter(({ passages }) => passages.some(has))
  const home = saying.find((step) => step.id === wanted) ?? saying[0]
  const word = home ? wordAt(home, place, has) : null
  const step = home?.id ?? wanted ?? takes.find(has)?.step ?? 'gone'
  return { id, step, word, place, guessed: home?.script.trim() ? 'word' : null }
}

/** The word that stands as far into the script as the place is into the step's voice. */
function wordAt({ script, passages }: StepOf2, { at }: SaidOf2, has: (passage: PassageOf2) => boolean) {
  const { words } = readScript(script)
  const index = passages.findIndex(has)
  const length = (parts: readonly PassageOf2[]) => parts.reduce((sum, { from, to }) => sum + to - from, 0)
  const share = (length(passages.slice(0, index)) + at - passages[index]!.from) / length(passages)
  const word = words.find(({ to }) => to > share * script.length) ?? words.at(-1)
  return word ? { character: word.from, side: 'before' as const } : null
}
