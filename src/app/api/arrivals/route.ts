import { readFile, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import type { WaitingArrival } from '@/core/messages/arrival'
import { waitingArrivals } from '@/db/arrivals'
import { piecesOf } from '@/jobs/pieces'
import { uploadsFolder } from '@/jobs/places'
import { recordedBytes } from '@/media/import/recordings'
import { ownerOf, route } from '../answer'

/** `?lesson=…`: what is on its way into it and nobody sends any more; `&kept=ID` names one that a browser has given up. */
export const GET = route(async (request) => {
  const query = new URL(request.url).searchParams
  const owner = ownerOf(request)
  const rows = await waitingArrivals(query.get('lesson') ?? '', owner, query.getAll('kept').slice(0, 100))
  const waiting = rows.map(async (row): Promise<WaitingArrival> => {
    const { id, importId, createdAt } = row
    const state = row.state as 'open' | 'finished'
    const told = { id, state, importId, createdAt: createdAt.toISOString(), isOwn: row.owner === owner }
    if (row.kind === 'file') return { ...told, kind: row.kind, name: row.name, ...(await uploaded(id)) }
    return { ...told, kind: row.kind, details: row.details, bytes: await recordedBytes(piecesOf(id)) }
  })
  return Response.json(await Promise.all(waiting))
})

const noteSchema = z.object({ size: z.number() })

/** How much of a file is here, of how much; what was imported is not kept as it came. */
async function uploaded(id: string): Promise<{ bytes: number; size: number | null }> {
  const path = join(uploadsFolder(), id)
  const [bytes, note] = await Promise.all([
    stat(path).then(
      ({ size }) => size,
      () => 0,
    ),
    readFile(`${path}.json`, 'utf8').then(
      (text) => noteSchema.parse(JSON.parse(text)),
      () => null,
    ),
  ])
  return { bytes, size: note?.size ?? null }
}
