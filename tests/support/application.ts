import { execFile } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import pg from 'pg'
import type { OutputName } from '@/core/delivery/outputs'
import type { JobStatus } from '@/core/messages/job'
// The very code by which the demo starts everything.
import {
  environment,
  ROOT,
  runStep,
  startServer,
  startWorker,
  TEST_DEMO,
  waitForServer,
} from '../../scripts/application.mjs'
import { freePort, startPostgres } from '../../scripts/postgres.mjs'

export const DEMO_FILES = join(ROOT, 'demo-files')
/** Two test files run at a time, each on data of its own; what one file has computed is there for those after it. */
export const TEST_DATA = join(ROOT, '.yarn-step', `test-${process.env.JEST_WORKER_ID ?? 1}`)
export const rawFile = (name: string) => join(DEMO_FILES, name)

type Process = ReturnType<typeof startServer>

export interface Application {
  url: string
  server: Process
  worker: Process
  /** The environment of both. */
  settings: Record<string, string | undefined>
  /** Kills the worker as a crash would, and starts another one. */
  replaceWorker(): Promise<void>
  /** Kills the server as a crash would, waits, and starts another one at the same address. */
  replaceServer(away: number): Promise<void>
  stopDatabase(): void
  startDatabase(): void
  /** Changes the database behind the application's back. */
  query(sql: string): Promise<void>
  stop(): Promise<void>
}

/** Server, worker and database of their own, with the demo course loaded; with more settings where they are given. */
export async function startApplication(settings: Record<string, string> = {}): Promise<Application> {
  mkdirSync(TEST_DATA, { recursive: true })
  const postgres = await startPostgres(TEST_DATA, { fast: true, fresh: true })
  const port = await freePort()
  const own = environment({ databaseUrl: postgres.url, data: TEST_DATA, port })
  const env = { ...own, YARN_STEP_DEMO: TEST_DEMO, ...settings }
  await runStep('prepare', env)
  await runStep('load-demo', env)
  const server = startServer(env)
  const application: Application = {
    url: `http://127.0.0.1:${port}`,
    server,
    worker: startWorker(env),
    settings: env,
    async replaceWorker() {
      await application.worker.kill('SIGKILL')
      application.worker = startWorker(env)
    },
    async replaceServer(away) {
      await application.server.kill('SIGKILL')
      await new Promise((resolve) => setTimeout(resolve, away * 1000))
      application.server = startServer(env)
      await waitForServer(application.server, port)
    },
    stopDatabase: () => postgres.stop(),
    startDatabase: () => postgres.start(),
    async query(sql) {
      const client = new pg.Client({ connectionString: postgres.url })
      await client.connect()
      await client.query(sql)
      await client.end()
    },
    async stop() {
      await Promise.all([application.server.kill(), application.worker.kill()])
      postgres.stop()
    },
  }
  await waitForServer(server, port)
  return application
}

const run = promisify(execFile)

// What commands keep of one test is there for the others, and nowhere else.
process.env.YARN_STEP_COMMAND_CACHE ??= join(TEST_DATA, 'commands')

/** Runs a program and returns all it printed; throws where it fails. */
export async function output(program: string, args: string[]): Promise<string> {
  const { stdout, stderr } = await run(program, args, { maxBuffer: 1 << 28, encoding: 'utf8' })
  return stdout + stderr
}

export const headless = async (...args: string[]): Promise<unknown> => {
  // By default it would be the environment of the test runner, not of the test.
  const options = { maxBuffer: 1 << 28, env: process.env }
  const { stdout } = await run(join(ROOT, 'bin', 'yarn-step'), [...args, '--json'], options)
  return JSON.parse(stdout)
}

/** A file of a lesson as it is saved now, made by the application. */
export async function madeFile(url: string, lesson: string, kind: OutputName): Promise<Uint8Array> {
  const body = JSON.stringify({ kind: 'export', lesson, file: kind })
  const asked = await fetch(`${url}/api/jobs`, { method: 'POST', body })
  const { id } = (await asked.json()) as { id: string }
  const status = async () => ((await (await fetch(`${url}/api/jobs?id=${id}`)).json()) as JobStatus[])[0]!
  await until(async () => {
    const { state, error } = await status()
    if (state === 'failed') throw new Error(error ?? 'failed')
    return state === 'done'
  }, 300)
  return new Uint8Array(await (await fetch(`${url}/api/jobs/${id}/file`)).arrayBuffer())
}

/**
 * What comes is waited for as long as this, on however busy a machine; only what never comes is a fault. Where time itself is tested, the
 * test measures it.
 */
export const PATIENCE = 300_000 // ms

/** Looks again and again until there is something. */
export async function until<T>(
  look: () => Promise<T | null | undefined | false>,
  seconds = PATIENCE / 1000,
): Promise<T> {
  for (let tries = 0; tries < seconds * 4; tries++) {
    const found = await look()
    if (found) return found
    await new Promise((resolve) => setTimeout(resolve, 250))
  }
  throw new Error('waited in vain')
}

/** A folder that is gone after the test file. */
export function scratch(): string {
  const folder = mkdtempSync(join(tmpdir(), 'yarn-step-test-'))
  afterAll(() => rmSync(folder, { recursive: true, force: true }))
  return folder
}
