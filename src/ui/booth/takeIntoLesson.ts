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
import type { Autosave } from '../saving/autosave'
import { recordingIsIn } from './pieces'

/** Recordings that this page is bringing into their lesson: they wait for nobody. */
const arriving = new Set<string>()
export const isArriving = (recording: string): boolean => arriving.has(recording)

type Into = Pick<Desk, 'store' | 'autosave'>

/** Waits for a recording to be imported and lays it into the lesson; once that is saved, by and by, the server is told. */
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
    // Until it is saved its pieces are all there is of it, and saving may have to wait for a server that is away.
    if (store.getState().edit(...(await editsFor(store, info, details)))) void arrive(recording, autosave)
    else arriving.delete(recording)
  } catch (error) {
    arriving.delete(recording)
    throw error
  }
}

async function arrive(recording: string, autosave: Autosave): Promise<void> {
  try {
    if (await autosave.whenSaved()) await recordingIsIn(recording)
  } catch (error) {
    console.error(error)
  }
  arriving.delete(recording)
}

async function editsFor(store: LessonStore, info: MediaInfo, details: RecordingDetails): Promise<Edit[]> {
  if (info.kind === 'recording') return layCapture(store.getState().history.lesson, details, info, () => nanoid(10))
  const speech = takeSpeech(await fetchAnalysis(info.hash))
  const recorded = { media: info.hash, length: info.length!, speech }
  const laid = layRecording(store.getState().history.lesson, details, recorded, () => nanoid(10))
  return [laid ?? { name: 'putOnShelf', items: [shelfItem(info)] }]
}
