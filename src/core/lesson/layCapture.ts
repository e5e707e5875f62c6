import { say } from '@/messages/say'
import type { Seconds } from '@/core/units'
import type { Lesson } from './document'
import { newRecording, newStep } from './newParts'
import type { Edit } from './edits'
import { shelfItem } from './fromFile'
import { layoutLesson } from './layout'
import type { MediaInfo } from '@/core/messages/media'
import type { RecordingDetails } from '@/core/messages/arrival'

/**
 * What a captured picture (screen or camera) does to its lesson: it takes the place of its step's picture; without that
 * step it becomes a new one at the end. The voice that was recorded with it meets what was seen while it spoke.
 */
export function layCapture(
  lesson: Lesson,
  { marks, voiceAt }: Pick<RecordingDetails, 'marks' | 'voiceAt'>,
  info: MediaInfo,
  newId: () => string,
): Edit[] {
  const whole = newRecording(info.hash, info.length!)
  // Who records it here has made it.
  const own = { ...shelfItem(info), licence: say('credits.ownRecording') }
  const shelf: Edit = { name: 'putOnShelf', items: [own] }
  const step = lesson.steps.find(({ id }) => id === marks[0]!.step)
  if (!step)
    return [shelf, { name: 'addSteps', before: null, steps: [newStep(newId(), say('files.recordedHere'), whole)] }]
  const from = voiceAt === null ? 0 : Math.min(whole.to, startWithVoice(lesson, step.id, voiceAt))
  const length = Math.max(whole.to - from, 'atLeast' in step.length ? step.length.atLeast : 0)
  return [
    shelf,
    { name: 'setPicture', step: step.id, picture: { ...whole, from } },
    { name: 'setLength', step: step.id, length: { kind: 'voice', atLeast: length } },
  ]
}

/** Where in the picture its step begins; from its beginning where the voice is not heard in the step. */
function startWithVoice(lesson: Lesson, step: string, voiceAt: Seconds): Seconds {
  const voice = lesson.takes.findLast((take) => take.step === step && take.kind === 'recorded')
  const timeline = layoutLesson(lesson)
  const heard = timeline.passages.find((span) => span.step.id === step && span.passage.media === voice?.media)
  if (!heard) return 0
  const into = heard.start - timeline.steps.find((span) => span.step.id === step)!.start
  return Math.max(0, voiceAt + heard.passage.from - into)
}
