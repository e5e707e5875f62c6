import { takeSpeech } from '@/core/measure/takeVoice'
import { nanoid } from 'nanoid'
import { shelfItem } from '@/core/lesson/fromFile'
import { layCapture } from '@/core/lesson/layCapture'
import type { MediaInfo } from '@/core/messages/media'
import type { RecordingDetails } from '@/core/messages/recording'
import { layRecording } from '@/core/narration/lay/layRecording'
import { fetchAnalysis } from '../arrival'
import type { LessonStore } from '../lesson/lessonStore'
import { recordingIsIn } from './pieces'

/** Lays a finished recording into the lesson, and tells the server that it has arrived. */
export async function takeIntoLesson(
  store: LessonStore,
  recording: string,
  info: MediaInfo,
  details: RecordingDetails,
): Promise<void> {
  store.getState().addMedia([info])
  const { lesson } = store.getState().history
  const edits = info.kind === 'recording' ? layCapture(lesson, details, info, () => nanoid(10)) : []
  if (info.kind === 'sound') {
    const speech = takeSpeech(await fetchAnalysis(info.hash))
    const laid = layRecording(lesson, details, { media: info.hash, length: info.length!, speech }, () => nanoid(10))
    if (laid) edits.push(laid)
    else edits.push({ name: 'putOnShelf', items: [shelfItem(info)] })
  }
  if (store.getState().edit(...edits)) await recordingIsIn(recording)
}
