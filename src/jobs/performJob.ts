import type { JobResult } from '@/core/messages/job'
import type { JobInput, JobInputOf, JobKind } from '@/core/messages/jobInput'
import { failJob, findJob, finishJob, isWanted, reportProgress, type JobRow } from '@/db/jobs'
import { loadRevision } from '@/db/lessons'
import { speaking } from '@/messages/onServer'
import { say } from '@/messages/say'
import { exportLesson, forgetExport } from './exportLesson'
import { forgetIncoming, importFile } from './importFile'
import { endWithError, throttled } from './reporting'
import { doWork } from './threads'
import type { WorkOptions } from './workOptions'

const LOOK = 1000 // ms

/** Does a job that stands in its table, and writes down what came of it. One that was cancelled is broken off. */
export async function performJob(id: string): Promise<void> {
  const row = await findJob(id)
  if (row && (await reportProgress(id, 0))) await speaking(row.language, () => performRow(row))
}

/** In the language of whoever asked for it. */
export async function giveUpJob(id: string): Promise<void> {
  const row = await findJob(id)
  if (row) await speaking(row.language, () => failJob(id, say('server.givenUp'), 'given-up'))
}

async function performRow({ id, input }: JobRow): Promise<void> {
  const cancel = new AbortController()
  const onProgress = throttled(async (progress) => {
    if (!(await reportProgress(id, progress))) cancel.abort()
  })
  // Also where it tells of no progress.
  const looking = setInterval(() => {
    void isWanted(id).then(
      (wanted) => wanted || cancel.abort(),
      () => {},
    )
  }, LOOK)
  try {
    const result = await perform(id, input, { signal: cancel.signal, onProgress })
    const isTaken = await finishJob(id, result)
    if (!isTaken && input.kind === 'export') await forgetExport(id, input)
  } catch (error) {
    // Where the database is away nothing is ended: it is done again.
    if (!cancel.signal.aborted) await endWithError(error, (sentence, code) => failJob(id, sentence, code))
  } finally {
    clearInterval(looking)
  }
  if (input.kind === 'import') await forgetIncoming(id, input)
}

async function perform(id: string, input: JobInput, options: WorkOptions): Promise<JobResult<JobKind>> {
  switch (input.kind) {
    case 'import':
      return importFile(id, input, options)
    case 'export':
      return exportLesson(id, input, options)
    case 'balance':
      return doWork('compute', await withLesson(input), options)
    default:
      return doWork('compute', input, options)
  }
}

const withLesson = async ({ lesson, revision }: JobInputOf<'balance'>) => ({
  kind: 'balance' as const,
  id: lesson,
  lesson: await loadRevision(lesson, revision),
})
