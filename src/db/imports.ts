import { eq, inArray } from 'drizzle-orm'
import type { ImportStatus } from '@/core/messages/importStatus'
import { mediaInfoSchema } from '@/core/messages/media'
import { db, type Transaction } from './client'
import { imports } from './schema'

export type ImportRow = typeof imports.$inferSelect

/** False where it is on its way already: asking twice does no harm. One that has failed begins again. */
export async function insertImport(
  tx: Transaction,
  row: Pick<ImportRow, 'id' | 'name' | 'purpose' | 'courseId'>,
): Promise<boolean> {
  const made = await tx
    .insert(imports)
    .values({ ...row, state: 'waiting' })
    .onConflictDoUpdate({
      target: imports.id,
      set: { state: 'waiting', progress: 0, error: null },
      setWhere: eq(imports.state, 'failed'),
    })
    .returning({ id: imports.id })
  return made.length > 0
}

export async function findImport(id: string): Promise<ImportRow | null> {
  const [row] = await db().select().from(imports).where(eq(imports.id, id))
  return row ?? null
}

export async function updateImport(id: string, change: Partial<Omit<ImportRow, 'id'>>): Promise<void> {
  await db().update(imports).set(change).where(eq(imports.id, id))
}

export async function importStatuses(ids: string[]): Promise<ImportStatus[]> {
  if (ids.length === 0) return []
  const rows = await db().select().from(imports).where(inArray(imports.id, ids))
  return rows.map(({ id, name, state, progress, error, media, lessonId }) => ({
    id,
    name,
    state,
    progress,
    error,
    lessonId,
    media: media === null ? null : mediaInfoSchema.parse(media),
  }))
}
