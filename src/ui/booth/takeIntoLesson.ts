import { takeSpeech } from '@/core/measure/takeVoice'
import { nanoid } from 'nanoid'
import { shelfItem } from '@/core/lesson/fromFile'
import type { Edit } from '@/core/lesson/edits'
import { layCapture } from '@/core/lesson/layCapture'
import type { MediaInfo } from '@/core/messages/media'
import type { RecordingDetails } from '@/core/messages/arrival'
import { layRecording } from '@/core/narration/lay/layRecording'
import { fetchAnalysis, imported } from '../arrival'
import { arrive } from '../arrivals/arrive'
import type { Desk } from '../lesson/context'
import type { LessonStore } from '../lesson/lessonStore'
import { recordingIsIn } from './pieces'

/** Waits for a recording to be imported and lays it into the lesson. */
export async function takeIntoLesson(
  { store, autosave }: Pick<Desk, 'store' | 'autosave'>,
  recording: string,
  importId: string,
  details: RecordingDetails,
): Promise<void> {
  const lay = async () => {
    const info = await imported(importId)
    store.getState().addMedia([info])
    return store.getState().edit(...(await editsFor(store, info, details)))
  }
  await arrive(recording, autosave, lay, recordingIsIn)
}

async function editsFor(store: LessonStore, info: MediaInfo, details: RecordingDetails): Promise<Edit[]> {
  if (info.kind === 'recording') return layCapture(store.getState().history.lesson, details, info, () => nanoid(10))
  const speech = takeSpeech(await fetchAnalysis(info.hash))
  const recorded = { media: info.hash, length: info.length!, speech }
  const laid = layRecording(store.getState().history.lesson, details, recorded, () => nanoid(10))
  return [laid ?? { name: 'putOnShelf', items: [shelfItem(info)] }]
}
