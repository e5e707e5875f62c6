import { listRevisions } from '@/db/lessons'
import { route } from '../../../answer'

export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await listRevisions(id)))
