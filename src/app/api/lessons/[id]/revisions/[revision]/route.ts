import { z } from 'zod'
import { documentOf } from '@/core/lesson/telling'
import { NotThere } from '@/core/userError'
import { loadRevision } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { infosOf } from '@/media/lessonMedia'
import { route } from '../../../../answer'

const revisionSchema = z.coerce
  .number()
  .int()
  .min(1)
  .max(2 ** 31 - 1)

/** An earlier version, and what is known of its files. */
export const GET = route<{ id: string; revision: string }>(async (_request, { id, revision }) => {
  const { success, data } = revisionSchema.safeParse(revision)
  if (!success) throw new NotThere('This version of the lesson is no longer there.')
  const lesson = await loadRevision(id, data)
  return Response.json({ lesson: documentOf(lesson), media: await infosOf(lesson, mediaStore()) })
})
