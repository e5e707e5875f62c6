import { nanoid } from 'nanoid'
import type { RecordingDetails } from '@/core/messages/arrival'
import { say } from '@/messages/say'
import { keepPieces } from './pieces'

export type PictureSource = 'screen' | 'camera'

export interface PictureRecording {
  /** Of the recording on the server. */
  id(): string
  details(): RecordingDetails
  /** A voice that is recorded with it begins now. */
  markVoice(): void
  /** Ends it and waits until all of it is on the server; gives the id of its import. */
  stop(): Promise<string>
}

/** What browsers write, best first. */
const TYPES = [
  { type: 'video/webm;codecs=vp9', extension: 'webm' },
  { type: 'video/webm;codecs=vp8', extension: 'webm' },
  { type: 'video/webm', extension: 'webm' },
  { type: 'video/mp4', extension: 'mp4' },
] as const
const PIECE = 1000 // ms
const BITS_PER_SECOND = 8_000_000

/**
 * Records what the browser lets be recorded, in pieces that are kept as they come. `onEnd` is called when the person
 * ends it by the browser's own button.
 */
export async function recordPicture(
  source: PictureSource,
  lesson: string,
  marks: RecordingDetails['marks'],
  onEnd: () => void,
): Promise<PictureRecording> {
  const { type, extension } = TYPES.find((one) => MediaRecorder.isTypeSupported(one.type)) ?? TYPES[2]
  const stream = await openPicture(source)
  const id = nanoid(14)
  let details: RecordingDetails = {
    marks,
    punch: null,
    room: null,
    trimmed: true,
    rate: null,
    voiceAt: null,
    extension,
  }
  const keeper = await keepPieces({ id, lesson, kind: 'picture', details })
  const recorder = new MediaRecorder(stream, { mimeType: type, videoBitsPerSecond: BITS_PER_SECOND })
  let keeping: Promise<void> = Promise.resolve()
  recorder.ondataavailable = ({ data }) => {
    keeping = keeping.then(async () => {
      const bytes = await data.arrayBuffer()
      if (bytes.byteLength > 0) await keeper.keep(bytes)
    })
  }
  const stopped = new Promise<void>((resolve) => (recorder.onstop = () => resolve()))
  stream.getVideoTracks()[0]?.addEventListener('ended', onEnd)
  const started = new Promise<number>((resolve) => (recorder.onstart = () => resolve(performance.now())))
  recorder.start(PIECE)
  const startedAt = await started
  return {
    id: keeper.id,
    details: () => details,
    markVoice() {
      details = { ...details, voiceAt: (performance.now() - startedAt) / 1000 }
      void keeper.describe(details)
    },
    async stop() {
      if (recorder.state !== 'inactive') recorder.stop()
      await stopped
      stream.getTracks().forEach((track) => track.stop())
      await keeping
      return keeper.finish()
    },
  }
}

async function openPicture(source: PictureSource): Promise<MediaStream> {
  const video = { width: { ideal: 1920 }, height: { ideal: 1080 }, frameRate: { ideal: 30 } }
  const asked =
    source === 'screen'
      ? navigator.mediaDevices.getDisplayMedia({ video, audio: false })
      : navigator.mediaDevices.getUserMedia({ video, audio: false })
  return asked.catch((error: DOMException) => {
    const isRefused = error.name === 'NotAllowedError'
    throw new Error(say(isRefused ? 'booth.pictureNotAllowed' : 'booth.pictureNotRecorded', { source }))
  })
}
