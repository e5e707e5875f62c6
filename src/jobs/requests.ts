import type { JobInput, JobInputOf, JobKind, JobRequest } from '@/core/messages/jobInput'
import { transaction, type Transaction } from '@/db/client'
import { insertJob } from '@/db/jobs'
import { presentRevision } from '@/db/lessons'
import { finishArrival } from '@/db/arrivals'
import { laneOf, sendJob } from './queue'

/** The ways to ask for work: a row and its place in the queue, made together or not at all. */

/** What somebody waits for goes before what is done in the background; higher goes first. */
const PRIORITIES: Partial<Record<JobKind, number>> = { scenes: 3, read: 2, clean: 1 }

/** Returns the job's id; what was computed before is done. Throws NotThere where its lesson is gone. */
export async function requestJob(asked: JobRequest): Promise<string> {
  const input: JobInput = asked.kind === 'export' ? { ...asked, revision: await presentRevision(asked.lesson) } : asked
  if (input.kind === 'balance') await presentRevision(input.lesson)
  return transaction((tx) => request(tx, input))
}

/** What came in under this id is imported; asking twice does no harm, and has it tried again where that has failed. */
export const requestImport = (id: string, input: Omit<JobInputOf<'import'>, 'kind'>): Promise<string> =>
  transaction(async (tx) => {
    // Where it is on its way into a lesson, it is there whole now.
    await finishArrival(id, tx)
    return request(tx, { kind: 'import', ...input }, id)
  })

export const requestRecordingImport = (id: string, name: string): Promise<string> =>
  requestImport(id, { name, purpose: 'recording', course: null })

async function request(tx: Transaction, input: JobInput, own?: string): Promise<string> {
  const { id, isNew } = await insertJob(tx, input, own)
  if (isNew) await sendJob(tx, laneOf(input.kind), id, PRIORITIES[input.kind] ?? 0)
  return id
}
