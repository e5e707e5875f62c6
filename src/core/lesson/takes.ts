import { matchWords } from '@/core/narration/words/matchWords'
import { shownText } from '@/core/narration/words/script'
import { isActive, type CleanUp } from '@/core/narration/cleanUp/settings'
import type { Lesson, MediaHash, Step, Take } from './document'

/** What is said in each step becomes a take of it, a take a file. */
export function takesFromPassages(steps: readonly Step[], kind: Take['kind'], newId: () => string): Take[] {
  return steps.flatMap((step) => {
    const media = [...new Set(step.passages.map((passage) => passage.media))]
    return media.map((one): Take => {
      const own = step.passages.filter((passage) => passage.media === one)
      const [from, to] = [
        Math.min(...own.map((passage) => passage.from)),
        Math.max(...own.map((passage) => passage.to)),
      ]
      return newTake(newId(), one, step, { from, to }, kind)
    })
  })
}

/** A take of a step as it is now. */
export function newTake(
  id: string,
  media: MediaHash,
  step: Pick<Step, 'id' | 'script' | 'title'>,
  { from, to }: { from: number; to: number },
  kind: Take['kind'],
): Take {
  const { id: stepId, script, title } = step
  return {
    id,
    media,
    step: stepId,
    from,
    to,
    name: title,
    kind,
    script,
    room: null,
    cleanUp: null,
    removed: false,
    retimed: [],
  }
}

/** The takes of a step that can be chosen, oldest first. */
export const takesOf = (lesson: Lesson, step: string): Take[] =>
  lesson.takes.filter((take) => take.step === step && !take.removed)

export const isInUse = (step: Step, take: Take): boolean =>
  step.passages.some(({ media, from, to }) => media === take.media && from < take.to && to > take.from)

/** A step whose words were last read by a synthesised voice and by nobody else. */
export function isStandIn(lesson: Lesson, step: Step): boolean {
  if (step.passages.length === 0) return false
  const read = new Set(lesson.takes.filter(({ kind }) => kind === 'read').map(({ media }) => media))
  return step.passages.every(({ media }) => read.has(media))
}

/** A step that has a script and nobody to say it. */
export const isSilent = (step: Step): boolean => step.script.trim() !== '' && step.passages.length === 0

/**
 * Whether what is heard in a step was said when its script was another. A take that is heard whole must have been said to
 * the script as it is; of a take that is shared or cut, the script must be a part.
 */
export function isOutdated(lesson: Lesson, step: Step): boolean {
  const firstHeard = (take: Take) =>
    step.passages.findIndex((passage) => isInUse({ ...step, passages: [passage] }, take))
  const used = lesson.takes
    .filter((take) => !take.removed && take.script.trim() && isInUse(step, take))
    .sort((a, b) => firstHeard(a) - firstHeard(b))
  if (used.length === 0) return false
  const written = wordsOf(step.script)
  const [only] = used
  if (used.length === 1 && isHeardWhole(step, only!)) return wordsOf(only!.script).join(' ') !== written.join(' ')
  return matchWords(written, used.map(({ script }) => wordsOf(script)).flat()).some((partner) => partner < 0)
}

const wordsOf = (script: string) => shownText(script).split(' ').filter(Boolean)

const isHeardWhole = (step: Step, take: Take): boolean =>
  step.passages.every(({ media, from, to }) => media === take.media && from <= take.from && to >= take.to)

/** What is done to a file before it is mixed as a voice, and the room it was recorded in; null where nothing is. */
export function cleaningOf(lesson: Lesson, media: MediaHash): { cleanUp: CleanUp; room: MediaHash | null } | null {
  const own = lesson.takes.filter((take) => take.media === media)
  // A synthesised voice has no room, and is even already: only its own clean-up counts.
  const isRead = own.some(({ kind }) => kind === 'read')
  const cleanUp = own.find((take) => take.cleanUp)?.cleanUp ?? (isRead ? null : lesson.cleanUp)
  if (!cleanUp || !isActive(cleanUp)) return null
  return { cleanUp, room: own.find(({ room }) => room)?.room ?? null }
}

/** Every file that speaks in the lesson. */
export const voicesOf = (lesson: Lesson): Set<MediaHash> =>
  new Set(lesson.steps.flatMap(({ passages }) => passages.map(({ media }) => media)))
