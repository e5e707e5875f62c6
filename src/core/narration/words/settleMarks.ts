import type { Lesson, Mark } from '@/core/lesson/document'
import { stepHearing } from '@/core/lesson/marks'
import type { StepWord } from './stepWords'

/** What is not worth a change of its own, in seconds. */
const SAME = 0.001

/**
 * Marks of which word or place was only guessed, as they are now that the words of their takes have been found; those that
 * do not change are left out. `wordsOf` gives a step's words, or null where they are not found yet.
 */
export function settleMarks(lesson: Lesson, wordsOf: (step: string) => readonly StepWord[] | null): Mark[] {
  return lesson.marks.flatMap((mark): Mark[] => {
    const step = mark.guessed && mark.place && stepHearing(lesson.steps, mark.place, mark.step)
    const words = step && wordsOf(step.id)
    if (!step || !words) return []
    const mediaOf = (word: StepWord) => step.passages.find(({ id }) => id === word.passage)?.media
    const now =
      mark.guessed === 'place'
        ? placed({ ...mark, step: step.id }, words, mediaOf)
        : named({ ...mark, step: step.id }, words, mediaOf)
    return now && !isAlike(now, mark) ? [now] : []
  })
}

type MediaOfWord = (word: StepWord) => string | undefined

/** Where its word is said. A word that was not found in the take stays guessed: it stands between its neighbours. */
function placed(mark: Mark, words: readonly StepWord[], mediaOf: MediaOfWord): Mark | null {
  const word = words.find(({ script }) => script.from === mark.word?.character)
  const media = word && mediaOf(word)
  if (!word || !media) return null
  const at = Math.max(0, mark.word?.side === 'after' ? word.at.to : word.at.from)
  return { ...mark, place: { media, at }, guessed: word.confidence === null ? 'place' : null }
}

/** Which word is said at its place, or next to it. */
function named(mark: Mark, words: readonly StepWord[], mediaOf: MediaOfWord): Mark | null {
  const { place } = mark
  const distance = ({ at }: StepWord) => Math.abs(at.from - place!.at)
  const [word] = words
    .filter((one) => one.text !== '' && mediaOf(one) === place!.media)
    .sort((a, b) => distance(a) - distance(b))
  if (!word || word.confidence === null) return null
  return { ...mark, word: { character: word.script.from, side: mark.word?.side ?? 'before' }, guessed: null }
}

const isAlike = (a: Mark, b: Mark): boolean =>
  a.step === b.step &&
  a.guessed === b.guessed &&
  a.word?.character === b.word?.character &&
  a.place?.media === b.place?.media &&
  Math.abs((a.place?.at ?? 0) - (b.place?.at ?? 0)) < SAME
