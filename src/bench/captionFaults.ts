import { captionRules, lessonCaptions } from '@/core/captions/lessonCaptions'
import { misplaced, tooShort } from '@/core/captions/rules'
import { layoutLesson } from '@/core/lesson/layout'
import type { Lesson } from '@/core/lesson/document'
import type { TimedWord } from '@/core/messages/job'
import type { Alignment } from '@/core/narration/align/alignment'
import { readScript } from '@/core/narration/words/script'
import { seededRandom } from '@/core/random'
import { lessonOver } from '@/core/testing/lessons'
import type { Seconds } from '@/core/units'

const SENTENCES_A_STEP = 3
/** Steps begin so long before their first word. */
const LEAD: Seconds = 0.1

export interface CaptionFaults {
  captions: number
  /** Too near to the next one, or seen for too long: never. */
  misplaced: number
  /** Seen for less than a second. */
  short: number
}

/** How a reading's captions come out, with so many (0..1) of its words, by a seed, not found. */
export function captionFaults(
  script: readonly string[],
  found: Alignment,
  language: string,
  unfound: number,
  seed: number,
): CaptionFaults {
  const lesson = { ...lessonOf(script, found), language }
  const words = timedWords(script, found)
  const random = seededRandom(seed)
  const kept = words.filter(() => random() >= unfound)
  const timeline = layoutLesson(lesson)
  const captions = lessonCaptions(lesson, timeline, {
    wordsOf: ({ passage }) => kept.filter(({ start }) => start >= passage.from && start < passage.to),
    speechOf: () => words.map(({ start, end }) => ({ start, end })),
  })
  const rules = captionRules(lesson, timeline)
  return {
    captions: captions.length,
    misplaced: misplaced(captions, rules).length,
    short: tooShort(captions, rules).length,
  }
}

/** A few sentences a step, cut before what is said first in the next one. */
function lessonOf(script: readonly string[], { sentences }: Alignment): Lesson {
  const starts = sentences.map((one) => (one.status === 'spoken' ? one.start : null))
  const firsts = script
    .map((_, sentence) => sentence)
    .filter((sentence) => sentence % SENTENCES_A_STEP === 0 && starts[sentence] !== null)
  const end = Math.max(...sentences.map((one) => (one.status === 'spoken' ? one.end : 0)))
  const lesson = lessonOver([...firsts.map((sentence) => starts[sentence]! - LEAD), end + LEAD], false)
  const steps = lesson.steps.map((step, i) => ({
    ...step,
    script: script.slice(firsts[i], firsts[i + 1] ?? script.length).join('\n'),
  }))
  return { ...lesson, steps }
}

function timedWords(script: readonly string[], { words }: Alignment): TimedWord[] {
  const written = readScript(script.join('\n'), { byLine: true }).words
  return words.map(({ word, ...times }) => ({ ...written[word]!, ...times }))
}
