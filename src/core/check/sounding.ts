import type { Lesson } from '@/core/lesson/document'
import { stepAt } from '@/core/lesson/layout'
import type { Loose, Timeline } from '@/core/lesson/timeline'
import type { SpeechSegment } from '@/core/measure/speech'
import { speechInLesson } from '@/core/mix/plan'
import type { AnalysisOf } from '@/core/mix/mixPlan'
import type { Seconds } from '@/core/units'
import { decimal } from '@/messages/numbers'
import { say } from '@/messages/say'
import type { Finding } from './finding'

/** Shorter overlaps nobody notices. */
const NOTICED: Seconds = 0.3
const SHORTEST_PICTURE: Seconds = 1

/** Sounds that get in each other's way or have lost their place, and pictures that can't be where they should. */
export function checkSounds(lesson: Lesson, timeline: Timeline, analysisOf: AnalysisOf): Finding[] {
  return [
    ...checkOverlaps(lesson, timeline, analysisOf),
    ...checkEnds(lesson, timeline),
    ...checkLoose(lesson, timeline),
    ...checkPictures(timeline),
  ]
}

/** Sounds that are longer than what is left of the lesson. */
function checkEnds(lesson: Lesson, timeline: Timeline): Finding[] {
  return timeline.sounds.flatMap(({ cue, start, end }): Finding[] => {
    const missing = end - timeline.length
    if (missing < NOTICED || start >= timeline.length) return []
    const text = say('findings.soundCutOff', { title: titleOf(lesson, cue.media), missing: decimal(missing, 1) })
    const stepId = timeline.steps.at(-1)?.step.id
    return [{ severity: 'warning', code: 'sound-cut-off', stepId, at: start, subject: cue.id, text }]
  })
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
            text: say('findings.twoVoices', { title }),
          },
        ]
      : [
          {
            severity: 'hint',
            code: 'effect-over-words',
            ...where,
            text: say('findings.effectOverWords', { title }),
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
    const isPicture = 'step' in one
    return {
      severity: 'warning',
      code: `loose-${one.kind}`,
      subject: one.id,
      ...(isPicture && { stepId: one.step.id, at: steps.find(({ step }) => step.id === one.step.id)?.start }),
      text: isPicture
        ? say('findings.ofStep', { number: numbers.get(one.step.id)!, what: looseSentence(lesson, one) })
        : looseSentence(lesson, one),
    }
  })
}

function looseSentence(lesson: Lesson, loose: Loose): string {
  switch (loose.kind) {
    case 'sound':
    case 'bed':
      return say('findings.looseSound', { title: titleOf(lesson, loose.cue.media) })
    case 'bed-end':
      return say('findings.looseBedEnd', { title: titleOf(lesson, loose.cue.media) })
    case 'nudge':
      return say('findings.looseNudge')
    case 'picture':
      return say('findings.loosePicture')
    case 'layer':
      return say('findings.looseLayer')
    case 'layer-end':
      return say('findings.looseLayerEnd')
    case 'pin':
      return say('findings.loosePin')
  }
}

function checkPictures({ pictures, steps }: Timeline): Finding[] {
  const numbers = new Map(steps.map(({ step, index }) => [step.id, index + 1]))
  return pictures.flatMap(({ step, start, end, missed, further }): Finding[] => {
    const about = { stepId: step.id, at: start }
    const found: Finding[] = []
    const isShort = end - start < SHORTEST_PICTURE
    const stays = steps.find((span) => span.step.id === step.id)
    // Where the step itself is short, that is told of it.
    if (further === null && isShort && stays && stays.end - stays.start >= SHORTEST_PICTURE) {
      found.push({
        severity: 'warning',
        code: 'flashing-picture',
        ...about,
        text: say('findings.hardlySeen', { number: numbers.get(step.id)! }),
      })
    }
    if (further !== null && isShort) {
      found.push({
        severity: 'warning',
        code: 'flashing-picture',
        ...about,
        text: say('findings.flashingFurther', { number: numbers.get(step.id)!, time: decimal(end - start) }),
      })
    }
    if (missed.length > 0) {
      found.push({
        severity: 'warning',
        code: 'pin-missed',
        ...about,
        text: say('findings.pinMissed', { number: numbers.get(step.id)! }),
      })
    }
    return found
  })
}

const titleOf = (lesson: Lesson, media: string) =>
  lesson.shelf.find((item) => item.media === media)?.title ?? say('words.aSoundThatIs')
