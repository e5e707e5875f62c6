import { sql } from 'drizzle-orm'
import { db } from '@/db/client'
import { route } from '../answer'

export const dynamic = 'force-dynamic'

/** Whether server and database answer. */
export const GET = route(async () => {
  await db().execute(sql`select 1`)
  return Response.json({ ok: true })
})
