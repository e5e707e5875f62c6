import { z } from 'zod'
import { documentOf } from '@/core/lesson/telling'
import { NotThere } from '@/core/userError'
import { loadRevision, nameRevision } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { infosOf } from '@/media/lessonMedia'
import { say } from '@/messages/say'
import { readJson, route } from '../../../../answer'

const revisionSchema = z.coerce
  .number()
  .int()
  .min(1)
  .max(2 ** 31 - 1)

interface Place extends Record<string, string> {
  id: string
  revision: string
}

/** An earlier version, and what is known of its files. */
export const GET = route<Place>(async (_request, { id, revision }) => {
  const lesson = await loadRevision(id, numberOf(revision))
  return Response.json({ lesson: documentOf(lesson), media: await infosOf(lesson, mediaStore()) })
})

const nameSchema = z.object({ name: z.string().max(100) })

/** Names a version, so that it is kept for ever; an empty name takes that back. */
export const PATCH = route<Place>(async (request, { id, revision }) => {
  const { name } = await readJson(request, nameSchema)
  await nameRevision(id, numberOf(revision), name)
  return Response.json({ ok: true })
})

function numberOf(revision: string): number {
  const { success, data } = revisionSchema.safeParse(revision)
  if (!success) throw new NotThere(say('server.versionGone'))
  return data
}
