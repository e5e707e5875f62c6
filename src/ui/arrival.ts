import type { JobStatus } from '@/core/messages/job'
import { readAnalysis } from '@/core/formats/analysis'
import type { MediaInfo } from '@/core/messages/media'
import type { Analysis } from '@/core/measure/analysis'
import { say } from '@/messages/say'
import { call } from './api'
import { startUpload } from './uploads/upload'

const ASK_EVERY = 250 // ms
/** So often the server may not know a file that it has taken. */
const UNKNOWN_LIMIT = 240
const IS_AWAY: Pick<JobStatus<'import'>, 'state' | 'result' | 'error'> = { state: 'waiting', result: null, error: null }

/** Waits until a file has been imported. Throws an Error with the sentence of what went wrong. */
export async function imported(importId: string): Promise<MediaInfo> {
  for (let unknown = 0; unknown < UNKNOWN_LIMIT; unknown++) {
    // A server that is away comes back.
    const [status] = await call<JobStatus<'import'>[]>(`/api/jobs?id=${importId}`).catch(() => [IS_AWAY])
    if (status?.state === 'done' && status.result?.media) return status.result.media
    if (status?.state === 'failed') throw new Error(status.error ?? say('parts.thisRecordingCouldNot'))
    if (status) unknown = 0
    await new Promise((resolve) => setTimeout(resolve, ASK_EVERY))
  }
  throw new Error(say('parts.lostOnTheWay'))
}

export async function fetchAnalysis(media: string): Promise<Analysis> {
  const response = await fetch(`/api/media/${media}/analysis.bin`)
  if (!response.ok) throw new Error(say('parts.noAnalysis'))
  return readAnalysis(new Uint8Array(await response.arrayBuffer()))
}

/** Sends a file to the server and waits until it has been read. */
export function bringIn(file: File, course: string): Promise<MediaInfo> {
  return new Promise((resolve, reject) => {
    startUpload(file, 'media', course, {
      onProgress: () => {},
      onWhole: (id) => void imported(id).then(resolve, reject),
      onError: (sentence) => reject(new Error(sentence)),
    })
  })
}
