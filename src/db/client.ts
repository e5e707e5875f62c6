import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import pg from 'pg'

export function databaseUrl(): string {
  const url = process.env.DATABASE_URL
  if (!url) throw new Error('DATABASE_URL is not set (see .env.example)')
  return url
}

// The development server loads this module again at every change; the connections stay.
const shared = globalThis as { yarnStepPool?: pg.Pool }

export function pool(): pg.Pool {
  return (shared.yarnStepPool ??= new pg.Pool({ connectionString: databaseUrl(), max: 10 }))
}

export const db = (): NodePgDatabase => drizzle(pool())
