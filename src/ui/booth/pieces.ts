import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { RecordingDetails, RecordingKind } from '@/core/messages/recording'
import { say } from '@/messages/say'
import { call, Refusal } from '../api'
import { holdPageLock, isPageGone } from '../pageLock'

/**
 * Keeps a recording safe while it is made: every piece goes into the browser's own storage first and to the server
 * after, again and again until it is there. Whatever breaks off, the pieces that were kept are found at the next visit;
 * they stay until the recording is in its lesson.
 */

interface Pieces extends DBSchema {
  recordings: { key: string; value: KeptRecording }
  pieces: { key: [recording: string, offset: number]; value: ArrayBuffer }
}

interface KeptRecording {
  id: string
  lesson: string
  kind: RecordingKind
  details: RecordingDetails
}

const RETRY_AFTER = 1000 // ms

let opened: Promise<IDBPDatabase<Pieces>> | undefined
const database = () => {
  opened ??= openDB<Pieces>('yarn-step-recordings', 1, {
    upgrade(db) {
      db.createObjectStore('recordings', { keyPath: 'id' })
      db.createObjectStore('pieces')
    },
  })
  // A first failure is not the last word.
  opened.catch(() => (opened = undefined))
  return opened
}

export interface PieceKeeper {
  keep(bytes: ArrayBuffer): Promise<void>
  describe(details: RecordingDetails): Promise<void>
  /** Waits until all pieces have reached the server, however long it is away, and returns the id of the import. */
  finish(): Promise<string>
  /** Bytes that are safe on the server, of all. */
  progress(): { sent: number; kept: number }
  /** What the person who records should know, in a sentence; null while all is well. */
  trouble(): string | null
}

/** Begins a recording. Returns once it is safe to speak: the browser's storage was tried. */
export async function keepPieces(recording: KeptRecording): Promise<PieceKeeper> {
  let isStored = true
  let refused: string | null = null
  /** What can't be kept here goes to the server all the same: nothing waits for it. */
  const store = async (work: (db: IDBPDatabase<Pieces>) => Promise<unknown>) => {
    try {
      await work(await database())
    } catch (error) {
      console.error(error)
      isStored = false
    }
  }
  await store((db) => db.put('recordings', recording))
  const release = holdPageLock(lockOf(recording.id))
  let kept = 0
  let sent = 0
  const tellTrouble = (sentence: string | null) => (refused = sentence)
  let sending: Promise<unknown> = untilItWorks(() => openOnServer(recording), tellTrouble)
  return {
    async keep(bytes) {
      const offset = kept
      kept += bytes.byteLength
      await store((db) => db.put('pieces', bytes, [recording.id, offset]))
      sending = sending
        .then(() => untilItWorks(() => sendPiece(recording.id, offset, bytes), tellTrouble))
        .then(() => {
          sent += bytes.byteLength
        })
    },
    async describe(details) {
      await store((db) => db.put('recordings', { ...recording, details }))
      sending = sending.then(() =>
        untilItWorks(
          () => call(`/api/recordings/${recording.id}`, { method: 'PATCH', body: { details } }),
          tellTrouble,
        ),
      )
    },
    async finish() {
      await sending
      const importId = await finishOnServer(recording.id, kept)
      release()
      return importId
    },
    progress: () => ({ sent, kept }),
    trouble: () => refused ?? (isStored ? null : say('booth.storageFull')),
  }
}

/** Recordings whose pieces are still in this browser and that no page is making now. */
export async function keptRecordings(lesson: string): Promise<KeptRecording[]> {
  const all = (await (await database()).getAll('recordings')).filter((one) => one.lesson === lesson)
  const free = await Promise.all(all.map(({ id }) => isPageGone(lockOf(id))))
  return all.filter((_, i) => free[i])
}

const lockOf = (id: string) => `yarn-step-recording-${id}`

/** Sends all that this browser has of a recording; what the server has already is sent again and does no harm. */
export async function sendKept(recording: KeptRecording): Promise<void> {
  await openOnServer(recording)
  await resend(recording.id, 0)
}

/** Sends the pieces that this browser has from a place on; where there are none, a hole stays and is said. */
async function resend(id: string, from: number): Promise<void> {
  const db = await database()
  for (const key of await db.getAllKeys('pieces', IDBKeyRange.bound([id, 0], [id, Infinity]))) {
    const bytes = await db.get('pieces', key)
    if (bytes && key[1] + bytes.byteLength > from) await putPiece(id, key[1], bytes)
  }
}

/**
 * Has the recording imported, also where that has failed before. `bytes` of it should be on the server; null where nobody
 * knows.
 */
export async function finishOnServer(id: string, bytes: number | null): Promise<string> {
  const body = { bytes, name: nameNow() }
  const finish = () =>
    call<{ importId: string } | { bytes: number }>(`/api/recordings/${id}/finish`, { method: 'POST', body })
  let answer = await untilItWorks(finish)
  if ('bytes' in answer) {
    await resend(id, answer.bytes)
    answer = await untilItWorks(finish)
  }
  if ('importId' in answer) return answer.importId
  throw new Error(say('booth.partNotThere', { there: answer.bytes ?? 0, bytes: bytes ?? 0 }))
}

/** By the clock of the person who records. */
function nameNow(): string {
  const now = new Date()
  const two = (value: number) => String(value).padStart(2, '0')
  const date = `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`
  return say('booth.recorded', { date, hour: two(now.getHours()), minute: two(now.getMinutes()) })
}

/** The recording is in its lesson: nothing of it needs to be kept here, nor its pieces on the server. */
export async function recordingIsIn(id: string): Promise<void> {
  await call(`/api/recordings/${id}`, { method: 'PATCH', body: { state: 'taken' } })
  await forget(id)
}

export async function forget(id: string): Promise<void> {
  const db = await database()
  await db.delete('pieces', IDBKeyRange.bound([id, 0], [id, Infinity]))
  await db.delete('recordings', id)
}

const openOnServer = ({ id, lesson, kind, details }: KeptRecording) =>
  call('/api/recordings', { body: { id, lesson, kind, details } })

/** A piece is there when the server has all bytes up to its end; what it lacks before goes first. */
async function sendPiece(id: string, offset: number, body: ArrayBuffer): Promise<void> {
  const bytes = await putPiece(id, offset, body)
  if (bytes >= offset + body.byteLength) return
  await resend(id, bytes)
  if ((await putPiece(id, offset, body)) < offset + body.byteLength) throw new Error(say('booth.partMissing'))
}

/** Returns how many bytes the server has without a gap. */
async function putPiece(id: string, offset: number, body: ArrayBuffer): Promise<number> {
  const response = await fetch(`/api/recordings/${id}/pieces?offset=${offset}`, { method: 'PUT', body })
  const answer = (await response.json().catch(() => ({}))) as { bytes?: number; error?: string }
  if (answer.bytes !== undefined) return answer.bytes
  throw new Error(answer.error ?? say('booth.theServerDoesNot'))
}

/** A server that is away comes back; a refusal would come again. */
async function untilItWorks<T>(work: () => Promise<T>, tell: (sentence: string | null) => void = () => {}): Promise<T> {
  for (;;) {
    try {
      const result = await work()
      tell(null)
      return result
    } catch (error) {
      if (error instanceof Refusal) throw error
      tell((error as Error).message)
      await new Promise((resolve) => setTimeout(resolve, RETRY_AFTER))
    }
  }
}
