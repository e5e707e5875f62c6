import type { Lesson } from '@/core/lesson/document'
import { stepAt } from '@/core/lesson/layout'
import type { Loose, Timeline } from '@/core/lesson/timeline'
import type { SpeechSegment } from '@/core/measure/speech'
import { speechInLesson } from '@/core/mix/plan'
import type { AnalysisOf } from '@/core/mix/mixPlan'
import type { Seconds } from '@/core/units'
import type { Finding } from './finding'

/** Shorter overlaps nobody notices. */
const NOTICED: Seconds = 0.3
const SHORTEST_PICTURE: Seconds = 1

/** Sounds that get in each other's way or have lost their place, and pictures that can't be where they should. */
export function checkSounds(lesson: Lesson, timeline: Timeline, analysisOf: AnalysisOf): Finding[] {
  return [...checkOverlaps(lesson, timeline, analysisOf), ...checkLoose(lesson, timeline), ...checkPictures(timeline)]
}

function checkOverlaps(lesson: Lesson, timeline: Timeline, analysisOf: AnalysisOf): Finding[] {
  const speech = speechInLesson(timeline.passages, [], analysisOf)
  return timeline.sounds.flatMap((span): Finding[] => {
    const { cue, start, end } = span
    if (cue.meant) return []
    const own: SpeechSegment[] =
      cue.track === 'voice' ? speechInLesson([], [span], analysisOf) : [{ start, end: Math.min(end, timeline.length) }]
    const at = firstOverlap(own, speech)
    if (at === null) return []
    const where = { stepId: stepAt(timeline, at)?.step.id, at, subject: cue.id }
    const title = titleOf(lesson, cue.media)
    return cue.track === 'voice'
      ? [
          {
            severity: 'warning',
            code: 'two-voices',
            ...where,
            text: `Two voices speak at once: “${title}” over the narration. Put in a pause for it, or say that it is meant.`,
          },
        ]
      : [
          {
            severity: 'hint',
            code: 'effect-over-words',
            ...where,
            text: `The effect “${title}” sounds over words. Move it into a pause, or say that it is meant.`,
          },
        ]
  })
}

/** Where two lists of stretches, both in order, first overlap for long enough to be noticed. */
function firstOverlap(a: readonly SpeechSegment[], b: readonly SpeechSegment[]): Seconds | null {
  for (const one of a) {
    for (const other of b) {
      const from = Math.max(one.start, other.start)
      if (Math.min(one.end, other.end) - from >= NOTICED) return from
    }
  }
  return null
}

function checkLoose(lesson: Lesson, { loose, steps }: Timeline): Finding[] {
  const numbers = new Map(steps.map(({ step, index }) => [step.id, index + 1]))
  return loose.map((one): Finding => {
    const isPicture = one.kind === 'picture' || one.kind === 'pin' || one.kind === 'layer'
    return {
      severity: 'warning',
      code: `loose-${one.kind}`,
      subject: one.id,
      ...(isPicture && { stepId: one.step.id, at: steps.find(({ step }) => step.id === one.step.id)?.start }),
      text: `${isPicture ? `Step ${numbers.get(one.step.id)}: ` : ''}${looseSentence(lesson, one)}`,
    }
  })
}

function looseSentence(lesson: Lesson, loose: Loose): string {
  switch (loose.kind) {
    case 'sound':
    case 'bed':
      return `“${titleOf(lesson, loose.cue.media)}” has come loose: what it hung on is gone, or not said. Hang it on another word, or take it out.`
    case 'nudge':
      return 'A point of the music’s gain has come loose: what it hung on is gone, or not said. Hang it on another word, or take it out.'
    case 'picture':
      return 'a further picture is not seen: the word it comes with is gone, or not said. Hang it on another word, or take it out.'
    case 'layer':
      return 'something over the picture is not seen: the word it comes with is gone, or not said. Hang it on another word, or take it out.'
    case 'pin':
      return 'a moment of the recording was pinned to a word that is gone, or not said. Pin it to another word, or take the pin out.'
  }
}

function checkPictures({ pictures, steps }: Timeline): Finding[] {
  const numbers = new Map(steps.map(({ step, index }) => [step.id, index + 1]))
  return pictures.flatMap(({ step, start, end, missed, picture }): Finding[] => {
    const about = { stepId: step.id, at: start }
    const found: Finding[] = []
    const isShort = end - start < SHORTEST_PICTURE
    const stays = steps.find((span) => span.step.id === step.id)
    // Where the step itself is short, that is told of it.
    if (picture === step.picture && isShort && stays && stays.end - stays.start >= SHORTEST_PICTURE) {
      found.push({
        severity: 'warning',
        code: 'flashing-picture',
        ...about,
        text: `Step ${numbers.get(step.id)}: its own picture is hardly seen, a further one takes its place at once. Take one of them out, or hang the further one on a later word.`,
      })
    }
    if (picture !== step.picture && isShort) {
      found.push({
        severity: 'warning',
        code: 'flashing-picture',
        ...about,
        text: `Step ${numbers.get(step.id)}: a further picture flashes by in ${(end - start).toFixed(1)} s.`,
      })
    }
    if (missed.length > 0) {
      found.push({
        severity: 'warning',
        code: 'pin-missed',
        ...about,
        text: `Step ${numbers.get(step.id)}: the recording can't reach a pinned moment in time and leaps there. Pin it to a later word, or cut something out.`,
      })
    }
    return found
  })
}

const titleOf = (lesson: Lesson, media: string) =>
  lesson.shelf.find((item) => item.media === media)?.title ?? 'a sound that is gone'
