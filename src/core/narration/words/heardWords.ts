import type { Lesson, Step, Take } from '@/core/lesson/document'
import type { PassageSpan } from '@/core/lesson/timeline'
import type { TimedWord } from '@/core/messages/job'
import type { JobInput } from '@/core/messages/jobInput'
import type { Seconds } from '@/core/units'

export type AlignInput = Extract<JobInput, { kind: 'align' }>

/** What has to be aligned to know a take's words: its own script, or without one that of its step. Null: nothing is written. */
export function alignInputOf(lesson: Lesson, take: Take): AlignInput | null {
  const { media, from, to } = take
  const script = take.script.trim() || (lesson.steps.find(({ id }) => id === take.step)?.script.trim() ?? '')
  return script ? { kind: 'align', media, from, to, script, language: lesson.language } : null
}

/** The takes of which something is heard in the lesson. */
export function takesHeard(lesson: Lesson): Take[] {
  const heard = lesson.steps.flatMap((step) => step.passages)
  return lesson.takes.filter((take) => heard.some((passage) => overlap(take, passage) > 0))
}

/**
 * The words in the part of a take that a passage uses: from the takes that cover it, the step's own first, with what the
 * author has corrected. Null while nothing has been found yet.
 */
export function heardIn(
  lesson: Lesson,
  { passage, step }: PassageSpan,
  found: (take: Take) => readonly TimedWord[] | undefined,
): TimedWord[] | null {
  const takes = coveringTakes(lesson, passage, step)
  const covered: Take[] = []
  const words: TimedWord[] = []
  let any = false
  for (const take of takes) {
    const own = found(take)
    if (!own) continue
    any = true
    const isNew = (time: Seconds) => !covered.some((other) => time >= other.from && time < other.to)
    words.push(...retimed(take, own).filter((word) => isNew((word.start + word.end) / 2)))
    covered.push(take)
  }
  return any ? words.sort((a, b) => a.start - b.start) : null
}

function coveringTakes(lesson: Lesson, passage: { media: string; from: Seconds; to: Seconds }, step: Step): Take[] {
  return lesson.takes
    .map((take) => ({ take, share: overlap(take, passage) }))
    .filter(({ share }) => share > 0)
    .sort((a, b) => Number(b.take.step === step.id) - Number(a.take.step === step.id) || b.share - a.share)
    .map(({ take }) => take)
}

function overlap(
  a: { media: string; from: Seconds; to: Seconds },
  b: { media: string; from: Seconds; to: Seconds },
): Seconds {
  return a.media === b.media ? Math.min(a.to, b.to) - Math.max(a.from, b.from) : 0
}

/** Words moved by hand; their neighbours give way. */
function retimed(take: Take, words: readonly TimedWord[]): readonly TimedWord[] {
  if (take.retimed.length === 0) return words
  const moved = words.map((word) => {
    const by = take.retimed.find(({ character }) => character === word.from)
    return by ? { ...word, start: by.start, end: by.end, confidence: 1 } : { ...word }
  })
  moved.forEach((word, i) => {
    const next = moved[i + 1]
    if (!next || next.start >= word.end) return
    const isByHand = take.retimed.some(({ character }) => character === word.from)
    if (isByHand) next.start = Math.min(word.end, next.end)
    else word.end = Math.max(word.start, next.start)
  })
  return moved
}
