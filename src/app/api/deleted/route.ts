import { listDeleted } from '@/db/deleted'
import { route } from '../answer'

export const dynamic = 'force-dynamic'

/** Lessons and courses that can be brought back. */
export const GET = route(async () => Response.json(await listDeleted()))
