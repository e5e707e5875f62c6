import type { Lesson } from '@/core/lesson/document'
import type { Timeline } from '@/core/lesson/timeline'
import { stepWords, type HeardWords } from '@/core/narration/words/stepWords'
import { wordsOf } from '@/core/narration/words/phrases'
import type { Seconds } from '@/core/units'
import { makeCaptions, type Caption, type SaidWord } from './captions'
import { USUAL_RULES, type CaptionRules } from './rules'

/** All that captions say of a lesson, in order: its written words, and its sounds that have something to be read. */
export function saidWords(timeline: Timeline, heard: HeardWords): SaidWord[] {
  return timeline.steps.flatMap(({ step, start, end }) => {
    const spans = timeline.passages.filter((span) => span.step === step)
    const words = spans.length === 0 ? [] : stepWords(spans, step.script, heard)
    const said = words
      .filter((word) => word.text !== '' && word.start < end)
      .map(({ text, start, end: until }) => ({ text, start, end: Math.min(until, end), step: step.id }))
    return withSounds(said, soundsWithin(timeline, step.id, start, end))
  })
}

/** How long what stands for an effect is read, however long that sounds. */
const EFFECT_READ: Seconds = 1.5

/** Something that is said or heard in one piece. */
type Saying = SaidWord & { isSecondVoice?: true }

/** Effects in brackets, as broadcasters write them; a second voice by what it says. */
function soundsWithin({ sounds }: Timeline, step: string, from: Seconds, to: Seconds): Saying[] {
  return sounds
    .filter(({ cue, start }) => cue.caption.trim() !== '' && start >= from && start < to)
    .map(({ cue, start, end }) => {
      const text = cue.caption.trim()
      return cue.track === 'voice'
        ? { text, start, end: Math.min(to, end), step, isSecondVoice: true }
        : { text: `[${text}]`, start, end: Math.min(to, start + EFFECT_READ), step }
    })
}

/** Each before the first word that begins after it; nothing lasts into the next. Two voices at once don't share a sentence. */
function withSounds(words: readonly SaidWord[], sounds: readonly Saying[]): SaidWord[] {
  if (sounds.length === 0) return [...words]
  const all: Saying[] = [...words, ...sounds].sort((a, b) => a.start - b.start)
  return all.flatMap(({ isSecondVoice, ...said }, i) => {
    const { text, start, step } = said
    const end = Math.max(start, Math.min(said.end, all[i + 1]?.start ?? said.end))
    return isSecondVoice
      ? wordsOf({ start, end }, text.split(/\s+/)).map((word) => ({ ...word, step }))
      : [{ ...said, end }]
  })
}

export const captionRules = (lesson: Lesson, timeline: Timeline): CaptionRules => ({
  ...USUAL_RULES,
  pace: lesson.look.captions.pace,
  apart: 2 / timeline.frame.rate,
})

/** The captions of words that were told by `saidWords`; those without lines are not shown. */
export const captionsOfWords = (lesson: Lesson, timeline: Timeline, words: readonly SaidWord[]): Caption[] =>
  makeCaptions(
    words,
    { cuts: timeline.pictures.map(({ start }) => start), length: timeline.length },
    lesson.language,
    captionRules(lesson, timeline),
    lesson.captionCorrections,
  )

export const lessonCaptions = (lesson: Lesson, timeline: Timeline, heard: HeardWords): Caption[] =>
  captionsOfWords(lesson, timeline, saidWords(timeline, heard)).filter(({ lines }) => lines.length > 0)
