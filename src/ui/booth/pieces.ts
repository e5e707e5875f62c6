import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { RecordingDetails, RecordingKind } from '@/core/lesson/recording'
import { call, Refusal } from '../api'

/**
 * Keeps a recording safe while it is made: every piece goes into the browser's own storage first and to the server
 * after, again and again until it is there. Whatever breaks off, the pieces that were kept are found at the next visit.
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
const database = () =>
  (opened ??= openDB<Pieces>('yarn-step-recordings', 1, {
    upgrade(db) {
      db.createObjectStore('recordings', { keyPath: 'id' })
      db.createObjectStore('pieces')
    },
  }))

export interface PieceKeeper {
  keep(bytes: ArrayBuffer): Promise<void>
  describe(details: RecordingDetails): Promise<void>
  /** Waits until all pieces have reached the server, however long it is away, and returns the id of the import. */
  finish(): Promise<string>
  /** Bytes that are safe on the server, of all. */
  progress(): { sent: number; kept: number }
}

/** Begins a recording. Returns once it is safe to speak: the browser's storage is open. */
export async function keepPieces(recording: KeptRecording): Promise<PieceKeeper> {
  const db = await database()
  await db.put('recordings', recording)
  const release = holdLock(recording.id)
  let kept = 0
  let sent = 0
  let sending: Promise<unknown> = untilItWorks(() => openOnServer(recording))
  return {
    async keep(bytes) {
      const offset = kept
      kept += bytes.byteLength
      await db.put('pieces', bytes, [recording.id, offset])
      sending = sending
        .then(() => untilItWorks(() => sendPiece(recording.id, offset, bytes)))
        .then(() => {
          sent += bytes.byteLength
        })
    },
    async describe(details) {
      await db.put('recordings', { ...recording, details })
      sending = sending.then(() =>
        untilItWorks(() => call(`/api/recordings/${recording.id}`, { method: 'PATCH', body: { details } })),
      )
    },
    async finish() {
      await sending
      const importId = await finishOnServer(recording.id)
      release()
      return importId
    },
    progress: () => ({ sent, kept }),
  }
}

/** Recordings whose pieces are still in this browser and that no page is making now. */
export async function keptRecordings(lesson: string): Promise<KeptRecording[]> {
  const all = (await (await database()).getAll('recordings')).filter((one) => one.lesson === lesson)
  const free = await Promise.all(
    all.map(({ id }) => navigator.locks.request(lockOf(id), { ifAvailable: true }, async (lock) => lock !== null)),
  )
  return all.filter((_, i) => free[i])
}

/** A lock goes with its page, however the page ends. */
function holdLock(id: string): () => void {
  let release = () => {}
  void navigator.locks.request(lockOf(id), () => new Promise<void>((resolve) => (release = resolve)))
  return () => release()
}
const lockOf = (id: string) => `yarn-step-recording-${id}`

/** Sends all that this browser has of a recording; what the server has already is sent again and does no harm. */
export async function sendKept(recording: KeptRecording): Promise<void> {
  const db = await database()
  await openOnServer(recording)
  const range = IDBKeyRange.bound([recording.id, 0], [recording.id, Infinity])
  for (const key of await db.getAllKeys('pieces', range)) {
    const bytes = await db.get('pieces', key)
    if (bytes) await sendPiece(recording.id, key[1], bytes)
  }
}

/** The server makes a file of it; only then the browser lets its pieces go. */
export async function finishOnServer(id: string): Promise<string> {
  const { importId } = await untilItWorks(() =>
    call<{ importId: string }>(`/api/recordings/${id}/finish`, { method: 'POST' }),
  )
  await forget(id)
  return importId
}

export async function forget(id: string): Promise<void> {
  const db = await database()
  await db.delete('pieces', IDBKeyRange.bound([id, 0], [id, Infinity]))
  await db.delete('recordings', id)
}

const openOnServer = ({ id, lesson, kind, details }: KeptRecording) =>
  call('/api/recordings', { body: { id, lesson, kind, details } })

async function sendPiece(id: string, offset: number, body: ArrayBuffer): Promise<void> {
  const response = await fetch(`/api/recordings/${id}/pieces?offset=${offset}`, { method: 'PUT', body })
  if (response.status >= 500) throw new Error('the server failed')
}

/** A server that is away comes back; a refusal would come again. */
async function untilItWorks<T>(work: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await work()
    } catch (error) {
      if (error instanceof Refusal) throw error
      await new Promise((resolve) => setTimeout(resolve, RETRY_AFTER))
    }
  }
}
