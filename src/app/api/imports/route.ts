import { importStatuses } from '@/db/imports'
import { route } from '../answer'

/** How far files have come: `?id=…&id=…`. */
export const GET = route(async (request) => {
  const ids = new URL(request.url).searchParams.getAll('id').slice(0, 500)
  return Response.json(await importStatuses(ids))
})
