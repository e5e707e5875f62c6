import { readAnalysis } from '@/core/formats/analysis'
import type { MediaInfo } from '@/core/messages/media'
import type { Analysis } from '@/core/measure/analysis'
import { say } from '@/messages/say'
import { endOf, UNKNOWN_LIMIT } from './jobs'
import { startUpload } from './uploads/upload'

/** Waits until a file has been imported. Throws an Error with the sentence of what went wrong. */
export async function imported(importId: string): Promise<MediaInfo> {
  const ended = await endOf<'import'>(importId, { unknownFor: UNKNOWN_LIMIT })
  if (ended?.result?.media) return ended.result.media
  throw new Error(ended ? (ended.error ?? say('parts.thisRecordingCouldNot')) : say('parts.lostOnTheWay'))
}

export async function fetchAnalysis(media: string): Promise<Analysis> {
  const response = await fetch(`/api/media/${media}/analysis.bin`)
  if (!response.ok) throw new Error(say('parts.noAnalysis'))
  return readAnalysis(new Uint8Array(await response.arrayBuffer()))
}

/** Sends a file to the server and waits until it has been read. */
export function bringIn(file: File, course: string): Promise<MediaInfo> {
  return new Promise((resolve, reject) => {
    startUpload(
      file,
      { purpose: 'media', course, lesson: null },
      {
        onBegun: () => {},
        onProgress: () => {},
        onWhole: (id) => void imported(id).then(resolve, reject),
        onError: (sentence) => reject(new Error(sentence)),
      },
    )
  })
}
