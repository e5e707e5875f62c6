import { z } from 'zod'
import { tellApart } from '@/core/measure/speechOrMusic'
import { mediaStore } from '@/jobs/places'
import { readJson, route } from '../answer'

const bodySchema = z.object({ sounds: z.array(z.string().regex(/^[0-9a-f]{64}$/)).max(500) })

/** Which of some sounds are narration and which are music, by measurement. */
export const POST = route(async (request) => {
  const { sounds } = await readJson(request, bodySchema)
  const store = mediaStore()
  const analysed = await Promise.all(sounds.map(async (item) => ({ item, analysis: await store.analysis(item) })))
  return Response.json(tellApart(analysed.flatMap(({ item, analysis }) => (analysis ? [{ item, analysis }] : []))))
})
