import { join } from 'node:path'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { db, pool } from '@/db/client'
import { prepareQueues } from './queue'

/** Brings tables and queues up to date, before server and workers start. Started from the project's folder. */
await migrate(db(), { migrationsFolder: join('src', 'db', 'migrations') })
await prepareQueues()
await pool().end()
