import type { Seconds } from '@/core/units'
import { frameOf } from '@/core/picture/frame'
import { layEdges } from '@/core/picture/layEdges'
import { layLayers } from '@/core/picture/layLayers'
import { layPictures } from '@/core/picture/layPictures'
import { laySounds } from './laySounds'
import type { BedCue, Lesson, Step } from './document'
import { DEFAULT_STAY } from './newParts'
import { layNudges } from './layNudges'
import { hears } from './marks'
import type { BedSpan, Loose, PassageSpan, StepSpan, TimeOfMark, Timeline } from './timeline'

type Lengths = Lesson['lengths']

/** Turns anchors into lesson time. Steps follow each other without gap or overlap. */
export function layoutLesson(lesson: Lesson): Timeline {
  const steps: StepSpan[] = []
  const passages: PassageSpan[] = []
  let start: Seconds = 0
  // The silence before the first word, where the step before stays until it is said.
  let given: Seconds = 0
  lesson.steps.forEach((step, index) => {
    const next = lesson.steps[index + 1]
    const gives = step.length.kind === 'until-next' && next ? silenceBefore(next, lesson.lengths) : 0
    const end = start + Math.max(0, stepLength(step, lesson.lengths) - given) + gives
    const voiceEnd = layPassages(step, lesson.lengths, start - given, end, passages)
    steps.push({ step, index, start, end, overrun: Math.max(0, voiceEnd - end) })
    start = end
    given = gives
  })
  const timeOf = markTimes(lesson, passages)
  const { pictures, ...seen } = layPictures(steps, passages, timeOf, lesson.framing)
  const { beds, ...played } = layBeds(lesson, steps, timeOf, start)
  const { sounds, ...heard } = laySounds(lesson.sounds, steps, timeOf)
  const { nudges, ...nudged } = layNudges(lesson.nudges, steps, timeOf)
  const over = layLayers(steps, pictures, timeOf)
  const edges = layEdges(lesson, steps, pictures)
  const loose = [...seen.loose, ...over.loose, ...heard.loose, ...played.loose, ...nudged.loose]
  const laid = { steps, passages, pictures, beds, sounds, nudges, layers: over.layers, edges, loose }
  return { ...laid, length: start, frame: frameOf(lesson.frame) }
}

/** How long a step stays by itself. */
export function stepLength(step: Step, lengths: Lengths): Seconds {
  const { length } = step
  if (length.kind === 'fixed') return length.length
  const { leadIn, tail } = edgesOf(step, lengths)
  const words = step.passages.length > 0 ? leadIn + voiceLength(step) + tail : DEFAULT_STAY
  switch (length.kind) {
    case 'lesson':
      return Math.max(lengths.atLeast, words)
    case 'reading':
      return Math.max(length.perWord * length.words, words)
    default:
      return Math.max(length.atLeast, words)
  }
}

/** Lead-in and tail that hold for a step. */
export const edgesOf = (step: Step, lengths: Lengths): { leadIn: Seconds; tail: Seconds } =>
  step.length.kind === 'lesson' ? lengths : step

export const voiceLength = (step: Step): Seconds =>
  step.passages.reduce((sum, { from, to, pause }) => sum + pause + to - from, 0)

const silenceBefore = (step: Step, lengths: Lengths): Seconds =>
  step.passages.length > 0 ? edgesOf(step, lengths).leadIn + step.passages[0]!.pause : 0

/** The step that is seen at `time`; the last one from the lesson's end on. Undefined in a lesson without steps. */
export function stepAt(timeline: Timeline, time: Seconds): StepSpan | undefined {
  let low = 0
  let high = timeline.steps.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (timeline.steps[middle]!.start <= time) low = middle
    else high = middle - 1
  }
  return timeline.steps[low]
}

/**
 * The same moment after the lesson has changed: same step, same distance from its start.
 * If the step is gone, the place where it stood.
 */
export function carryOver(before: Timeline, after: Timeline, time: Seconds): Seconds {
  const old = stepAt(before, time)
  if (!old) return 0
  const now = after.steps.find(({ step }) => step.id === old.step.id)
  const moved = now ? Math.min(now.start + time - old.start, now.end) : (after.steps[old.index]?.start ?? after.length)
  return Math.min(moved, after.length)
}

/** Lays a step's passages one after the other and returns where they would end. */
function layPassages(step: Step, lengths: Lengths, start: Seconds, end: Seconds, out: PassageSpan[]): Seconds {
  let at = start + edgesOf(step, lengths).leadIn
  for (const passage of step.passages) {
    at += passage.pause
    const wanted = at + passage.to - passage.from
    if (at < end) out.push({ passage, step, sound: passage.media, start: at, end: Math.min(wanted, end) })
    at = wanted
  }
  return at
}

/** When marks are said: in the passage that has their place, rather in their own step. */
function markTimes(lesson: Lesson, passages: readonly PassageSpan[]): TimeOfMark {
  const byMedia = new Map<string, PassageSpan[]>()
  for (const span of passages) {
    const own = byMedia.get(span.passage.media)
    if (own) own.push(span)
    else byMedia.set(span.passage.media, [span])
  }
  const marks = new Map(lesson.marks.map((mark) => [mark.id, mark]))
  return (id) => {
    const { place, step } = marks.get(id) ?? { place: null, step: '' }
    if (!place) return null
    const spans = (byMedia.get(place.media) ?? []).filter(({ passage: { media, from }, start, end }) =>
      hears({ media, from, to: from + end - start }, place),
    )
    const span = spans.find((one) => one.step.id === step) ?? spans[0]
    return span ? Math.max(span.start, span.start + place.at - span.passage.from) : null
  }
}

/** A bed plays from where it begins until its own end, until the next bed starts, or to the lesson's end. */
function layBeds(
  lesson: Lesson,
  steps: StepSpan[],
  timeOf: TimeOfMark,
  length: Seconds,
): { beds: BedSpan[]; loose: Loose[] } {
  const spans = new Map(steps.map((span) => [span.step.id, span]))
  const startOf = ({ begins }: BedCue) =>
    begins.kind === 'mark' ? timeOf(begins.mark) : (spans.get(begins.step)?.start ?? null)
  const loose: Loose[] = []
  const cues = lesson.bedCues
    .flatMap((cue) => {
      const start = startOf(cue)
      if (start !== null) return [{ cue, start }]
      loose.push({ kind: 'bed', id: cue.id, cue })
      return []
    })
    .sort((a, b) => a.start - b.start)
  const beds = cues.map(({ cue, start }, i) => {
    const next = cues[i + 1]?.start ?? length
    if (cue.last === null) return { cue, start, end: next }
    const own = spans.get(cue.last)?.end
    if (own !== undefined && own > start) return { cue, start, end: Math.min(own, next) }
    // Its end has gone, or come before its beginning: as short as it can be meant, until somebody says how long.
    loose.push({ kind: 'bed-end', id: cue.id, cue })
    const first = steps.find((span) => span.end > start)?.end ?? length
    return { cue, start, end: Math.min(first, next) }
  })
  return { beds, loose }
}
