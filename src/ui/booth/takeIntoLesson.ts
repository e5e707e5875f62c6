import { nanoid } from 'nanoid'
import { newRecording, newStep } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import { shelfItem } from '@/core/lesson/firstLesson'
import type { MediaInfo } from '@/core/lesson/media'
import type { RecordingDetails } from '@/core/lesson/recording'
import { takeSpeech } from '@/core/mix/voiceClips'
import { layRecording } from '@/core/narration/layRecording'
import { call } from '../api'
import { fetchAnalysis } from '../arrival'
import type { LessonStore } from '../lesson/lessonStore'

/** Lays a finished recording into the lesson, and tells the server that it has arrived. */
export async function takeIntoLesson(
  store: LessonStore,
  recording: string,
  info: MediaInfo,
  details: RecordingDetails,
): Promise<void> {
  store.getState().addMedia([info])
  const { lesson } = store.getState().history
  const edits = info.kind === 'recording' ? asPicture(store, info, details) : []
  if (info.kind === 'sound') {
    const speech = takeSpeech(await fetchAnalysis(info.hash))
    const laid = layRecording(lesson, details, { media: info.hash, length: info.length!, speech }, () => nanoid(10))
    if (laid) edits.push(laid)
    else edits.push({ name: 'putOnShelf', items: [shelfItem(info)] })
  }
  if (store.getState().edit(...edits))
    await call(`/api/recordings/${recording}`, { method: 'PATCH', body: { state: 'taken' } })
}

/** A recorded picture takes the place of its step's picture; without that step it becomes a new one at the end. */
function asPicture(store: LessonStore, info: MediaInfo, { marks }: RecordingDetails): Edit[] {
  const { lesson } = store.getState().history
  const picture = newRecording(info.hash, info.length!)
  const shelf: Edit = { name: 'putOnShelf', items: [shelfItem(info)] }
  const step = lesson.steps.find(({ id }) => id === marks[0]!.step)
  if (!step) return [shelf, { name: 'addSteps', before: null, steps: [newStep(nanoid(10), 'Recorded', picture)] }]
  const length = Math.max(info.length!, 'atLeast' in step.length ? step.length.atLeast : 0)
  return [
    shelf,
    { name: 'setPicture', step: step.id, picture },
    { name: 'setLength', step: step.id, length: { kind: 'voice', atLeast: length } },
  ]
}
