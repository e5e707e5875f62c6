import type { DetailedError, Upload } from 'tus-js-client'
import type { JobStatus } from '@/core/messages/job'
import { say } from '@/messages/say'
import { asOwner } from '../owner'
import { queryClient } from '../queries'

/** A file on its way: first bytes to the server, then import there. */
export interface Arrival {
  key: string
  name: string
  size: number
  file: File
  /** Known once the server has made room for it: of the upload, and then of its import. */
  id: string | null
  /** Share of bytes sent, 0..1. */
  sent: number
  /** When the last byte was there, by the page's clock. */
  wholeAt: number | null
  status: JobStatus<'import'> | null
  error: string | null
  /** Ends once the server has thrown away what it had of it. */
  cancel(): Promise<void>
}

export type UploadPurpose = 'media' | 'archive'

const RETRY_AFTER = [0, 500, 1000, 2000, 4000, 8000, 15000, 30000] // ms

/** Something else holds the upload still, which is soon over. */
const HELD = [409, 423]
const DISK_FULL = 507
/** The lesson that it was for. */
const NOT_THERE = 404

/** What a file is for. */
export interface UploadAim {
  purpose: UploadPurpose
  /** Where a lesson in it goes; null: the server decides. */
  course: string | null
  /** Into which lesson it goes: there it is found, even where its page is left; null: into none. */
  lesson: string | null
}

export interface UploadEvents {
  /** The server has made room for it, and calls it so. */
  onBegun(id: string): void
  onProgress(sent: number): void
  /** All bytes are there, and the import has been put into the queue under this id. */
  onWhole(id: string): void
  onError(message: string): void
}

/** Sends a file in pieces; after a lost connection or a reloaded page it goes on where it stopped. */
export function startUpload(
  file: File,
  { purpose, course, lesson }: UploadAim,
  events: UploadEvents,
): () => Promise<void> {
  let upload: Upload | null = null
  let isCancelled = false
  const start = async () => {
    // Comes with the first file that is brought in.
    const tus = await queryClient().fetchQuery({
      queryKey: ['tus-js-client'],
      queryFn: () => import('tus-js-client'),
      staleTime: Infinity,
      retry: RETRY_AFTER.length,
      retryDelay: (failed) => RETRY_AFTER[failed]!,
    })
    if (isCancelled) return
    const own = new tus.Upload(file, {
      endpoint: '/api/uploads',
      retryDelays: RETRY_AFTER,
      chunkSize: 16 * 1024 * 1024,
      removeFingerprintOnSuccess: true,
      onShouldRetry: isWorthAnotherTry,
      metadata: { filename: file.name, purpose, ...(course && { course }), ...(lesson && { lesson }) },
      headers: asOwner(),
      // What was begun for one lesson does not go on in another one.
      fingerprint: async (_, { endpoint }) =>
        ['yarn-step', endpoint, lesson, file.name, file.type, file.size, file.lastModified].join('-'),
      onUploadUrlAvailable: () => events.onBegun(idOf(own)),
      onProgress: (sent, total) => events.onProgress(total > 0 ? sent / total : 1),
      onSuccess: () => events.onWhole(idOf(own)),
      onError: (error) => events.onError(sentenceFor(error, file.name)),
    })
    upload = own
    const [previous] = await own.findPreviousUploads()
    if (previous) own.resumeFromPreviousUpload(previous)
    if (!isCancelled) own.start()
  }
  start().catch((error: Error) => events.onError(sentenceFor(error, file.name)))
  return async () => {
    isCancelled = true
    await upload?.abort(true)
  }
}

const idOf = ({ url }: Upload): string => url!.split('/').at(-1)!

/**
 * All but a refusal may be gone the next time. The server may be on this very machine: it is asked whether the browser
 * believes itself in a network or not.
 */
function isWorthAnotherTry({ originalResponse: answer }: DetailedError): boolean {
  const status = answer?.getStatus() ?? 0
  const isRefused = (status >= 400 && status < 500) || status === DISK_FULL
  return !isRefused || HELD.includes(status)
}

function sentenceFor(error: Error, name: string): string {
  const answer = 'originalResponse' in error ? (error as DetailedError).originalResponse : null
  if (answer && [DISK_FULL, NOT_THERE].includes(answer.getStatus()) && answer.getBody()) return answer.getBody()
  if (/413|exceed|too large|max/i.test(error.message)) return say('uploads.thisFileIsLarger', { name })
  return say('uploads.theConnectionWasLost', { name })
}
