import { desc, eq } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { ExportKind, ExportStatus } from '@/core/messages/exportStatus'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { NotThere } from '@/core/userError'
import { db, type Transaction } from './client'
import { exports } from './schema'

export type ExportRow = typeof exports.$inferSelect

export async function insertExport(
  tx: Transaction,
  lessonId: string,
  revision: number,
  kind: ExportKind,
): Promise<string> {
  const id = nanoid(12)
  await tx.insert(exports).values({ id, lessonId, revision, kind, state: 'waiting' })
  return id
}

export async function loadExport(id: string): Promise<ExportRow> {
  const row = await findExport(id)
  if (!row) throw new NotThere('This file is no longer there. Make it again.')
  return row
}

export async function findExport(id: string): Promise<ExportRow | null> {
  const [row] = await db().select().from(exports).where(eq(exports.id, id))
  return row ?? null
}

export async function updateExport(id: string, change: Partial<Omit<ExportRow, 'id'>>): Promise<void> {
  await db().update(exports).set(change).where(eq(exports.id, id))
}

export async function deleteExport(id: string): Promise<void> {
  await db().delete(exports).where(eq(exports.id, id))
}

export async function listExports(lessonId: string): Promise<ExportStatus[]> {
  const rows = await db().select().from(exports).where(eq(exports.lessonId, lessonId)).orderBy(desc(exports.createdAt))
  return rows.map(({ id, revision, kind, state, progress, error, balance, bytes, createdAt }) => ({
    id,
    revision,
    kind,
    state,
    progress,
    error,
    bytes,
    // Written by our own worker in this very form.
    balance: balance as BalanceSheet | null,
    createdAt: createdAt.toISOString(),
  }))
}
