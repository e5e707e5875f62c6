import { pronunciationsChangeSchema } from '@/core/narration/speechVoice'
import { changePronunciations, pronunciationsOf } from '@/db/courses'
import { readJson, route } from '../../../answer'

/** Words of the course that synthesised voices are told how to say. */
export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await pronunciationsOf(id)))

export const PATCH = route<{ id: string }>(async (request, { id }) =>
  Response.json(await changePronunciations(id, await readJson(request, pronunciationsChangeSchema))),
)
