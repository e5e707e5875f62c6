import { UserError } from '@/core/userError'
import { loadRecording, updateRecording } from '@/db/recordings'
import { recordingsFolder } from '@/jobs/places'
import { recordingFile, writePiece } from '@/media/recordings'
import { route } from '../../../answer'

/** One piece: its bytes, and where they belong, `?offset=…`. Answered when it is on disk. */
export const PUT = route<{ id: string }>(async (request, { id }) => {
  const offset = Number(new URL(request.url).searchParams.get('offset'))
  if (!Number.isSafeInteger(offset) || offset < 0) throw new UserError('A piece of a recording came without its place.')
  const { state } = await loadRecording(id)
  if (state === 'open') {
    await writePiece(recordingFile(recordingsFolder(), id), offset, new Uint8Array(await request.arrayBuffer()))
    await updateRecording(id, { heardAt: new Date() })
  }
  return Response.json({ ok: true })
})
