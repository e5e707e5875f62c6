import type { WaitingArrival } from '@/core/messages/arrival'
import type { JobStatus } from '@/core/messages/job'
import { call } from '../api'
import { keptRecordings, recordingIsIn, sendKept } from '../booth/pieces'
import { isArriving } from './arrive'
import { askWaiting, isHeld } from './ownArrivals'

/** What this page has sent whole: once is enough, nobody adds to it any more. */
const sent = new Set<string>()

/**
 * What waits for a lesson and no page is at. What this browser still has of recordings is sent to the server first; what is
 * in the lesson as it is saved (`savedMedia`) is told to be.
 */
export async function findWaiting(lesson: string, savedMedia: () => ReadonlySet<string>): Promise<WaitingArrival[]> {
  const kept = await keptRecordings(lesson).catch(() => [])
  // One that can't be sent now keeps nobody from the others.
  await Promise.allSettled(
    kept.filter(({ id }) => !sent.has(id)).map((one) => sendKept(one).then(() => sent.add(one.id))),
  )
  const waiting = await askWaiting(
    lesson,
    kept.map(({ id }) => id),
  )
  const held = await Promise.all(waiting.map(({ id }) => isHeld(id)))
  const left = waiting.filter((one, i) => !isArriving(one.id) && !held[i] && isWorthTelling(one))
  // The page may have gone between saving the lesson and saying that this is in it.
  const isIn = await Promise.all(left.map(async (one) => isThere(one, savedMedia)))
  left.forEach(({ id }, i) => isIn[i] && void recordingIsIn(id).catch(console.error))
  return left.filter((_, i) => !isIn[i])
}

/** A room serves another recording; of nothing there is nothing to keep; how far others' files are is theirs to know. */
function isWorthTelling({ kind, bytes, state, isOwn }: WaitingArrival): boolean {
  if (kind === 'room') return false
  return state === 'finished' || (bytes > 0 && (kind !== 'file' || isOwn))
}

async function isThere({ importId }: WaitingArrival, savedMedia: () => ReadonlySet<string>): Promise<boolean> {
  if (!importId) return false
  const [job] = await call<JobStatus<'import'>[]>(`/api/jobs?id=${importId}`).catch(() => [])
  const media = job?.result?.media?.hash
  return media !== undefined && savedMedia().has(media)
}
