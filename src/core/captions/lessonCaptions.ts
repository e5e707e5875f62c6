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

/** Effects in brackets, as broadcasters write them; a second voice by its words. */
function soundsWithin({ sounds }: Timeline, step: string, from: Seconds, to: Seconds): SaidWord[] {
  return sounds
    .filter(({ cue, start }) => cue.caption.trim() !== '' && start >= from && start < to)
    .flatMap(({ cue, start, end }) => {
      const text = cue.caption.trim()
      return cue.track === 'voice'
        ? spread(text, start, Math.min(to, end), step)
        : [{ text: `[${text}]`, start, end: Math.min(to, start + EFFECT_READ), step }]
    })
}

/** The words of a text over a stretch of time, by their letters. */
const spread = (text: string, start: Seconds, end: Seconds, step: string): SaidWord[] =>
  wordsOf({ start, end }, text.split(/\s+/)).map((word) => ({ ...word, step }))

/** Each before the first word that begins after it; nothing lasts into the next. */
function withSounds(words: readonly SaidWord[], sounds: readonly SaidWord[]): SaidWord[] {
  if (sounds.length === 0) return [...words]
  const all = [...words, ...sounds].sort((a, b) => a.start - b.start)
  return all.map((word, i) => ({
    ...word,
    end: Math.max(word.start, Math.min(word.end, all[i + 1]?.start ?? word.end)),
  }))
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
