import type { Lesson, Passage, Take } from '@/core/lesson/document'
import type { RecordingDetails } from '@/core/messages/arrival'
import type { TakeEdit } from '@/core/lesson/takeEdits'
import { newTake, takesOf } from '@/core/lesson/takes'
import type { SpeechSegment } from '@/core/measure/speech'
import type { Seconds } from '@/core/units'
import { breakPlaces } from './breaks'

/** Kept before the first word and after the last one. */
const MARGIN: Seconds = 0.3
/** The key for the next picture is pressed about when the next sentence begins: the break goes to the pause nearby. */
const SNAP: Seconds = 0.7

export interface RecordedVoice {
  media: string
  length: Seconds
  speech: readonly SpeechSegment[]
}

/**
 * What a finished recording does to its lesson: a take for each step that was spoken to, heard in place of what was
 * there. A punch keeps what was said before its place. Null where none of its steps is in the lesson any more.
 */
export function layRecording(
  lesson: Lesson,
  { marks, punch, room, trimmed }: RecordingDetails,
  voice: RecordedVoice,
  newId: () => string,
): Extract<TakeEdit, { name: 'addTakes' }> | null {
  const edges = partEdges(
    marks.map(({ at }) => at),
    voice,
  )
  const takes: Take[] = []
  const heard: { step: string; passages: Passage[] }[] = []
  marks.forEach(({ step: id }, i) => {
    const step = lesson.steps.find((one) => one.id === id)
    const whole = { from: edges[i]!, to: edges[i + 1]! }
    const part = trimmed ? wordsWithin(whole, voice) : whole
    if (!step || part.to - part.from < 0.05) return
    const number = takesOf(lesson, id).length + takes.filter((take) => take.step === id).length + 1
    takes.push({ ...newTake(newId(), voice.media, step, part, 'recorded'), name: `Take ${number}`, room })
    const kept = i === 0 && punch ? beforePunch(step.passages, punch) : []
    const passages = [...kept, { id: newId(), media: voice.media, ...part, pause: 0 }]
    const again = heard.find((one) => one.step === id)
    if (again) again.passages.push(passages.at(-1)!)
    else heard.push({ step: id, passages })
  })
  return takes.length > 0 ? { name: 'addTakes', takes, heard } : null
}

/** Where each part begins, and where the last one ends. */
function partEdges(marks: readonly Seconds[], { length, speech }: RecordedVoice): Seconds[] {
  const places = breakPlaces(speech).map(({ at }) => at)
  const first = speech[0]?.start ?? 0
  const last = speech.at(-1)?.end ?? length
  const inner = marks.slice(1).map((mark) => {
    const near = places.filter((place) => Math.abs(place - mark) <= SNAP)
    return near.sort((a, b) => Math.abs(a - mark) - Math.abs(b - mark))[0] ?? mark
  })
  return [Math.max(0, first - MARGIN), ...inner, Math.min(length, last + MARGIN)]
}

/** A part without the waits before its first word and after its last one. */
function wordsWithin({ from, to }: { from: Seconds; to: Seconds }, { speech }: RecordedVoice) {
  const own = speech.filter(({ start, end }) => end > from && start < to)
  if (own.length === 0) return { from, to }
  return { from: Math.max(from, own[0]!.start - MARGIN), to: Math.min(to, own.at(-1)!.end + MARGIN) }
}

function beforePunch(passages: readonly Passage[], punch: { passage: string; at: Seconds }): Passage[] {
  const index = passages.findIndex(({ id }) => id === punch.passage)
  if (index < 0) return []
  const own = passages[index]!
  const kept = passages.slice(0, index)
  return punch.at > own.from ? [...kept, { ...own, to: Math.min(own.to, punch.at) }] : kept
}
