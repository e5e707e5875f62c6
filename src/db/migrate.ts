import { join } from 'node:path'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { db, pool } from './client'

/** Brings the tables up to date; started from the project's folder. */
await migrate(db(), { migrationsFolder: join('src', 'db', 'migrations') })
await pool().end()
