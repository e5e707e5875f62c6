import { takeSpeech } from '@/core/measure/takeVoice'
import { nanoid } from 'nanoid'
import { shelfItem } from '@/core/lesson/fromFile'
import type { Edit } from '@/core/lesson/edits'
import { layCapture } from '@/core/lesson/layCapture'
import type { MediaInfo } from '@/core/messages/media'
import type { RecordingDetails } from '@/core/messages/recording'
import { layRecording } from '@/core/narration/lay/layRecording'
import { fetchAnalysis, imported } from '../arrival'
import type { Desk } from '../lesson/context'
import type { LessonStore } from '../lesson/lessonStore'
import { recordingIsIn } from './pieces'

/** Recordings that this page is bringing into their lesson: they wait for nobody. */
const arriving = new Set<string>()
export const isArriving = (recording: string): boolean => arriving.has(recording)

type Into = Pick<Desk, 'store' | 'autosave'>

/** Waits for a recording to be imported, lays it into the lesson, and once that is saved tells the server that it has arrived. */
export async function takeIntoLesson(
  { store, autosave }: Into,
  recording: string,
  importId: string,
  details: RecordingDetails,
): Promise<void> {
  arriving.add(recording)
  try {
    const info = await imported(importId)
    store.getState().addMedia([info])
    if (!store.getState().edit(...(await editsFor(store, info, details)))) return
    // Until then its pieces are all there is of it.
    await autosave.whenSaved()
    await recordingIsIn(recording)
  } finally {
    arriving.delete(recording)
  }
}

async function editsFor(store: LessonStore, info: MediaInfo, details: RecordingDetails): Promise<Edit[]> {
  if (info.kind === 'recording') return layCapture(store.getState().history.lesson, details, info, () => nanoid(10))
  const speech = takeSpeech(await fetchAnalysis(info.hash))
  const recorded = { media: info.hash, length: info.length!, speech }
  const laid = layRecording(store.getState().history.lesson, details, recorded, () => nanoid(10))
  return [laid ?? { name: 'putOnShelf', items: [shelfItem(info)] }]
}
