import { z } from 'zod'
import { UserError } from '@/core/userError'
import { findJob } from '@/db/jobs'
import { loadOwnRecording } from '@/db/arrivals'
import { handOverPieces, piecesOf } from '@/jobs/pieces'
import { requestRecordingImport } from '@/jobs/requests'
import { recordedBytes } from '@/media/import/recordings'
import { say } from '@/messages/say'
import { ownerOf, readJson, route } from '../../../answer'

/** How many bytes the browser has sent, where it knows; what is called a recording made `at` by the author's clock. */
const bodySchema = z.object({ bytes: z.int().min(0).nullable(), name: z.string().trim().min(1).max(200) })

/**
 * All pieces are there: the recording is imported. Safe to repeat, also to try a failed import again. 409 and how far it
 * goes where something is missing.
 */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { bytes, name } = await readJson(request, bodySchema)
  const { kind, state, importId, details } = await loadOwnRecording(id, ownerOf(request))
  const isOver = importId !== null && (await findJob(importId))?.state !== 'failed'
  if (state === 'taken' || (state === 'finished' && isOver)) return Response.json({ importId })
  const kept = await recordedBytes(piecesOf(id))
  if (bytes !== null && kept < bytes) return Response.json({ bytes: kept }, { status: 409 })
  if (kept === 0) throw new UserError(say('imports.nothingWasRecordedCheck'))
  await handOverPieces(id)
  await requestRecordingImport(id, `${name}.${kind === 'picture' ? details.extension : 'wav'}`)
  return Response.json({ importId: id })
})
