import { z } from 'zod'

/** What is known of a recording while it is made and after, besides its sound. */
export const recordingDetailsSchema = z.object({
  /** Steps in the order they were spoken to, and from which second of the recording on; one for a single step. */
  marks: z
    .array(z.object({ step: z.string(), at: z.number().min(0) }))
    .min(1)
    .max(2000),
  /** Where in the first step it begins: what was said there before stays up to this place. */
  punch: z.object({ passage: z.string(), at: z.number().min(0) }).nullable(),
  /** The room alone, recorded in the same sitting. */
  room: z.string().nullable(),
  /** Each step's part is trimmed to its own words, or one break follows the other without anything lost. */
  trimmed: z.boolean(),
  /** Of a sound: samples a second, as the microphone gives them. */
  rate: z.int().min(8000).max(384_000).nullable(),
  /** Of a picture: where in it the voice begins that was recorded with it. */
  voiceAt: z.number().nullable(),
  /** Of a picture: the file's ending. */
  extension: z.enum(['webm', 'mp4']).nullable(),
})
export type RecordingDetails = z.infer<typeof recordingDetailsSchema>
export type RecordingKind = 'voice' | 'room' | 'picture'

interface Waiting {
  id: string
  /** Open ones are not there whole. */
  state: 'open' | 'finished'
  /** Of its import, once it is finished. */
  importId: string | null
  bytes: number
  createdAt: string
  /** Whether the browser that asks has made or sent it. */
  isOwn: boolean
}

/** A recording that is not in its lesson yet. */
export interface WaitingRecording extends Waiting {
  kind: RecordingKind
  details: RecordingDetails
}

/** A file that was brought in for a lesson and is not in it yet. */
export interface WaitingFile extends Waiting {
  kind: 'file'
  name: string
  /** Bytes of the whole of it; null where it is not known any more. */
  size: number | null
}

export type WaitingArrival = WaitingRecording | WaitingFile
