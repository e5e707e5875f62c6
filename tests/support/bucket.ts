import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { join } from 'node:path'
import type { BucketSettings } from '@/media/store/bucketObjects'
import { ROOT } from '../../scripts/application.mjs'
import { freePort } from '../../scripts/postgres.mjs'

/** A bucket of its own, whose files lie in a folder. */
export async function startBucket(folder: string): Promise<{ settings: BucketSettings; stop(): Promise<void> }> {
  const port = await freePort()
  const program = join(ROOT, 'tests', 'support', 'bucketServer.mjs')
  const server = spawn('node', [program, folder, String(port)], { stdio: ['ignore', 'pipe', 'inherit'] })
  await Promise.race([
    once(server.stdout, 'data'),
    once(server, 'exit').then(() => Promise.reject(new Error('the bucket did not start'))),
  ])
  return {
    settings: {
      endpoint: `http://127.0.0.1:${port}/yarn-step`,
      region: 'us-east-1',
      accessKeyId: 'S3RVER',
      secretAccessKey: 'S3RVER',
    },
    async stop() {
      server.kill()
      if (server.exitCode === null && server.signalCode === null) await once(server, 'exit')
    },
  }
}
