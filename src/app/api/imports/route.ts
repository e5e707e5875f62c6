import { importStatuses } from '@/db/imports'
import { adoptUploads } from '../uploads/adopt'
import { route } from '../answer'

/** How far files have come: `?id=…&id=…`. */
export const GET = route(async (request) => {
  const ids = new URL(request.url).searchParams.getAll('id').slice(0, 500)
  const known = await importStatuses(ids)
  const unknown = ids.filter((id) => !known.some((one) => one.id === id))
  if (unknown.length === 0) return Response.json(known)
  await adoptUploads(unknown)
  return Response.json([...known, ...(await importStatuses(unknown))])
})
