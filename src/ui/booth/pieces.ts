import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { nanoid } from 'nanoid'
import type { RecordingDetails, RecordingKind } from '@/core/messages/arrival'
import { say } from '@/messages/say'
import { call, Refusal } from '../api'
import { asOwner } from '../owner'
import { holdArrival, isHeld, tellTaken, throwArrivalAway } from '../arrivals/ownArrivals'
import { KEPT_IN } from './keptIn'

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
  opened ??= openDB<Pieces>(KEPT_IN, 1, {
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
  /** Of the recording on the server: another one where somebody has ended the first. */
  id(): string
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
  /** Another one from where somebody has ended it on. */
  let now = recording
  const releases = [holdArrival(recording.id)]
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
  let kept = 0
  let sent = 0
  const tellTrouble = (sentence: string | null) => (refused = sentence)
  let sending: Promise<unknown> = Promise.resolve()
  const inOrder = (work: () => Promise<unknown>) => {
    sending = sending.then(() => untilItWorks(work, tellTrouble))
    // A refusal ends the sending: it is told at once, and again by `finish`.
    sending.catch((error: Error) => tellTrouble(error.message))
  }
  inOrder(() => openOnServer(recording))

  async function send(offset: number, bytes: ArrayBuffer): Promise<void> {
    const outcome = await sendPiece(now.id, offset, bytes)
    if (outcome === 'there') return
    // Somebody has thrown it away, or ended it: all of it goes there again, as itself or as another one.
    if (outcome === 'ended') {
      const next = { ...now, id: nanoid(14) }
      releases.push(holdArrival(next.id))
      await moveKept(now, next)
      now = next
    }
    await openOnServer(now)
    await resend(now.id, 0)
    if ((await sendPiece(now.id, offset, bytes)) !== 'there') throw new Error(say('booth.partMissing'))
  }

  return {
    id: () => now.id,
    async keep(bytes) {
      const offset = kept
      kept += bytes.byteLength
      await store((db) => db.put('pieces', bytes, [now.id, offset]))
      inOrder(async () => {
        await send(offset, bytes)
        sent += bytes.byteLength
      })
    },
    async describe(details) {
      now = { ...now, details }
      await store((db) => db.put('recordings', now))
      // Where it has gone there, the details go with it when it is opened again.
      inOrder(() => tellDetails(now).catch(unlessRefused))
    },
    async finish() {
      try {
        await sending
        return await finishOnServer(now.id, kept)
      } finally {
        releases.forEach((release) => release())
      }
    },
    progress: () => ({ sent, kept }),
    trouble: () => refused ?? (isStored ? null : say('booth.storageFull')),
  }
}

function unlessRefused(error: unknown): void {
  if (!(error instanceof Refusal)) throw error
}

/** The pieces of one recording become those of another. */
async function moveKept(from: KeptRecording, to: KeptRecording): Promise<void> {
  const db = await database()
  await db.put('recordings', to)
  for (const key of await db.getAllKeys('pieces', IDBKeyRange.bound([from.id, 0], [from.id, Infinity])))
    await db.put('pieces', (await db.get('pieces', key))!, [to.id, key[1]])
  await forget(from.id)
}

/** Recordings whose pieces are still in this browser and that no page is making now. */
export async function keptRecordings(lesson: string): Promise<KeptRecording[]> {
  const all = (await (await database()).getAll('recordings')).filter((one) => one.lesson === lesson)
  const held = await Promise.all(all.map(({ id }) => isHeld(id)))
  return all.filter((_, i) => !held[i])
}

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
    call<{ importId: string } | { bytes: number }>(`/api/recordings/${id}/finish`, {
      method: 'POST',
      body,
      headers: asOwner(),
    })
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
  await tellTaken(id)
  await forget(id)
}

/** Of its own browser, or one that nobody makes any more. */
export async function throwAway(id: string): Promise<void> {
  await throwArrivalAway(id)
  await forget(id)
}

export async function forget(id: string): Promise<void> {
  const db = await database()
  await db.delete('pieces', IDBKeyRange.bound([id, 0], [id, Infinity]))
  await db.delete('recordings', id)
}

const openOnServer = ({ id, lesson, kind, details }: KeptRecording) =>
  call('/api/recordings', { body: { id, lesson, kind, details }, headers: asOwner() })

const tellDetails = ({ id, details }: KeptRecording): Promise<unknown> =>
  call(`/api/recordings/${id}`, { method: 'PATCH', body: { details }, headers: asOwner() })

/** What became of a piece: nobody knows the recording any more, or somebody has ended it. */
type Outcome = 'there' | 'gone' | 'ended'

/** A piece is there when the server has all bytes up to its end; what it lacks before goes first. */
async function sendPiece(id: string, offset: number, body: ArrayBuffer): Promise<Outcome> {
  const end = offset + body.byteLength
  const first = await putPiece(id, offset, body)
  if (typeof first !== 'number') return first
  if (first >= end) return 'there'
  await resend(id, first)
  const again = await putPiece(id, offset, body)
  if (typeof again !== 'number') return again
  if (again < end) throw new Error(say('booth.partMissing'))
  return 'there'
}

const PIECE_LIMIT = 60_000 // ms: a slow line takes its time

/** Returns how many bytes the server has without a gap, where it takes them. */
async function putPiece(id: string, offset: number, body: ArrayBuffer): Promise<number | 'gone' | 'ended'> {
  const address = `/api/recordings/${id}/pieces?offset=${offset}`
  const signal = AbortSignal.timeout(PIECE_LIMIT)
  const response = await fetch(address, { method: 'PUT', body, signal, headers: asOwner() })
  if (response.status === 404) return 'gone'
  if (response.status === 410) return 'ended'
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
