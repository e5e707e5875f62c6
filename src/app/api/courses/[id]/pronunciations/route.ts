import { z } from 'zod'
import { pronunciationSchema } from '@/core/narration/speechVoice'
import { pronunciationsOf, setPronunciations } from '@/db/courses'
import { readJson, route } from '../../../answer'

/** Words of the course that synthesised voices are told how to say. */
export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await pronunciationsOf(id)))

export const PUT = route<{ id: string }>(async (request, { id }) => {
  const list = await readJson(request, z.array(pronunciationSchema).max(1000))
  await setPronunciations(id, list)
  return Response.json(list)
})
