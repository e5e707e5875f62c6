import { z } from 'zod'
import { loadRecording, updateArrival } from '@/db/arrivals'
import { piecesOf } from '@/jobs/pieces'
import { LARGEST_PIECE, recordedBytes, writePiece } from '@/media/import/recordings'
import { readBody, readQuery, route } from '../../../answer'

const querySchema = z.object({ offset: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER) })

/**
 * One piece: its bytes, and where they belong, `?offset=…`. Answered when it is on disk, with how many bytes are there
 * without a gap; 409 where the pieces before it are missing, 410 where somebody has ended the recording meanwhile: then the
 * piece is not taken, and whoever records goes on in another one.
 */
export const PUT = route<{ id: string }>(async (request, { id }) => {
  const { offset } = readQuery(request, querySchema)
  const { state } = await loadRecording(id)
  const path = piecesOf(id)
  if (state !== 'open') {
    const bytes = await recordedBytes(path)
    // A piece that is there already was only sent again.
    const length = Number(request.headers.get('content-length') ?? 0)
    return Response.json({ bytes }, { status: length > 0 && offset + length <= bytes ? 200 : 410 })
  }
  const piece = await readBody(request, LARGEST_PIECE)
  const bytes = await writePiece(path, offset, piece)
  await updateArrival(id, {})
  return Response.json({ bytes }, { status: bytes < offset + piece.length ? 409 : 200 })
})
