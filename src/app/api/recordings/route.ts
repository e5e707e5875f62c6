import { z } from 'zod'
import { recordingDetailsSchema, type WaitingRecording } from '@/core/messages/recording'
import { loadLesson } from '@/db/lessons'
import { openRecording, waitingRecordings } from '@/db/recordings'
import { piecesOf } from '@/jobs/pieces'
import { recordedBytes } from '@/media/import/recordings'
import { ownerOf, readJson, route } from '../answer'

const openSchema = z.object({
  id: z.string().regex(/^[\w-]{8,40}$/),
  lesson: z.string(),
  kind: z.enum(['voice', 'room', 'picture']),
  details: recordingDetailsSchema,
})

/** `?lesson=…`: what was recorded for it and is not in it yet; `&kept=ID` names one that a browser has given up. */
export const GET = route(async (request) => {
  const query = new URL(request.url).searchParams
  const rows = await waitingRecordings(query.get('lesson') ?? '', ownerOf(request), query.getAll('kept').slice(0, 100))
  const waiting = rows.map(async ({ id, kind, details, state, importId, createdAt }): Promise<WaitingRecording> => {
    const bytes = await recordedBytes(piecesOf(id))
    return {
      id,
      kind,
      details,
      state: state as 'open' | 'finished',
      importId,
      bytes,
      createdAt: createdAt.toISOString(),
    }
  })
  return Response.json(await Promise.all(waiting))
})

export const POST = route(async (request) => {
  const { id, lesson, kind, details } = await readJson(request, openSchema)
  await loadLesson(lesson)
  await openRecording(id, lesson, kind, details, ownerOf(request))
  return Response.json({ id })
})
