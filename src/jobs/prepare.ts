import { chmod, mkdir } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { db, pool } from '@/db/client'
import { dataFolders } from './places'
import { prepareQueues } from './queue'

/** Brings folders, tables and queues up to date, before server and workers start. Started from the project's folder. */
for (const folder of [...dataFolders(), tmpdir()]) {
  await mkdir(folder, { recursive: true })
  // What people recorded is nobody else's business.
  if (folder !== '/tmp') await chmod(folder, 0o700)
}
await migrate(db(), { migrationsFolder: join('src', 'db', 'migrations') })
await prepareQueues()
await pool().end()
