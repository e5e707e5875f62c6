import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join, resolve } from 'node:path'
import { until } from './client'
import type { RunningDemo } from './kills'

/**
 * Starts the demo as `npm run demo` does, with its data in a folder of its own, and ends it again. `made`: where its lessons
 * are made, or are already.
 */
export async function startDemo(
  data: string,
  made = join(data, 'demo'),
): Promise<RunningDemo & { stop(): Promise<void> }> {
  const port = await freePort()
  const child = spawn('node', [resolve('scripts', 'demo.mjs')], {
    env: { ...process.env, YARN_STEP_DATA: data, YARN_STEP_DEMO: made, PORT: String(port) },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (part: Buffer) => (said += String(part)))
  const ended = new Promise<void>((resolve) => child.on('exit', () => resolve()))
  await until(async () => {
    if (child.exitCode !== null) throw new Error(`the demo ended:\n${said}`)
    return said.includes('is running') || null
  }, 'starting the demo')
  const children = () => (JSON.parse(readFileSync(join(data, 'running.json'), 'utf8')) as Running).children
  return {
    url: `http://127.0.0.1:${port}`,
    pidOf: (part) => children()[part],
    async stop() {
      child.kill('SIGTERM')
      await ended
    },
  }
}

interface Running {
  children: Record<'server' | 'worker' | 'postgres', number>
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number }
      server.close(() => resolve(port))
    })
  })
}
