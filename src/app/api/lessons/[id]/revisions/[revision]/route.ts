import { loadRevision } from '@/db/lessons'
import { route } from '../../../../answer'

export const GET = route<{ id: string; revision: string }>(async (_request, { id, revision }) =>
  Response.json(await loadRevision(id, Number(revision))),
)
