import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { existsSync, readdirSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'

export const ROOT = new URL('..', import.meta.url).pathname.replace(/\/$/, '')

/** Where the tests' demo is made, once for all that load it. */
export const TEST_DEMO = join(ROOT, '.yarn-step', 'test-demo')

/** Environment that all processes of one installation share. */
export const environment = ({ databaseUrl, data, port }) => ({
  ...process.env,
  // Work folders lie beside the data: files then move there instead of being copied.
  TMPDIR: join(data, 'tmp'),
  NODE_ENV: 'production',
  NEXT_TELEMETRY_DISABLED: '1',
  DATABASE_URL: databaseUrl,
  YARN_STEP_DATA: data,
  PORT: String(port),
})

/** Programs that run now: whoever is told to stop ends them. */
const running = new Set()

export function stopSteps() {
  for (const child of running) child.kill()
}

/** Runs a program to its end, without holding up this process: it can be told to stop meanwhile. Returns what it printed. */
async function runToEnd(program, args, options) {
  const child = spawn(program, args, { cwd: ROOT, ...options })
  running.add(child)
  let printed = ''
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (chunk) => (printed += chunk))
  const [code] = await once(child, 'close')
  running.delete(child)
  return { isDone: code === 0, printed }
}

/** Runs one of our own bundled steps to its end; its output is the user's. */
export async function runStep(name, env, args = []) {
  const { isDone } = await runToEnd('node', [join('dist', `${name}.mjs`), ...args], { env, stdio: 'inherit' })
  if (!isDone) throw new Error(`The step '${name}' failed (see above).`)
}

/** Builds the application unless the last build is newer than every source. */
export async function buildIfNeeded() {
  const stamp = join(ROOT, '.next', 'BUILD_ID')
  const bundle = join(ROOT, 'dist', 'yarn-step.mjs')
  const newest = newestIn(join(ROOT, 'src'), ...['package-lock.json', 'next.config.ts'].map((f) => join(ROOT, f)))
  const fresh = (file) => existsSync(file) && statSync(file).mtimeMs > newest
  if (fresh(stamp) && fresh(bundle)) return
  clearBrowserLeftovers()
  console.log('Building the application (about a minute)')
  const env = { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' }
  const { isDone, printed } = await runToEnd('npm', ['run', '--silent', 'build'], {
    env,
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  if (isDone) return
  process.stderr.write(printed)
  throw new Error('The application could not be built (see above).')
}

/** A browser that was killed leaves links that lead nowhere; the bundler, which looks at all folders here, fails at them. */
function clearBrowserLeftovers() {
  const data = join(ROOT, '.yarn-step')
  const homes = existsSync(data) ? readdirSync(data).map((name) => join(data, name)) : []
  for (const folder of [join(data, 'tmp'), ...homes.map((home) => join(home, 'tmp'))]) {
    const names = existsSync(folder) ? readdirSync(folder) : []
    for (const name of names)
      if (name.startsWith('org.chromium.')) rmSync(join(folder, name), { recursive: true, force: true })
  }
}

function newestIn(...paths) {
  return Math.max(
    ...paths.map((path) => {
      const stat = statSync(path)
      if (!stat.isDirectory()) return stat.mtimeMs
      return Math.max(0, ...readdirSync(path).map((name) => newestIn(join(path, name))))
    }),
  )
}

export const startServer = (env) => start('server', ['dist/server.mjs'], env)
/** Its heap is small, what lies outside (sound, pictures) large: to clear away on one thread is a tenth less work, and no slower. */
export const startWorker = (env) => start('worker', ['--single-threaded-gc', 'dist/worker.mjs'], env)

const LONGEST_END = 10_000 // ms

/** Starts a process in the background. What it prints is kept, so that it can be shown when it dies early. */
function start(name, args, env) {
  const child = spawn('node', args, { cwd: ROOT, env, stdio: ['ignore', 'pipe', 'pipe'] })
  let output = ''
  const keep = (chunk) => {
    output = (output + chunk).slice(-20000)
    if (process.env.YARN_STEP_VERBOSE) process.stderr.write(`[${name}] ${chunk}`)
  }
  child.stdout.on('data', keep)
  child.stderr.on('data', keep)
  const ended = new Promise((resolve) => child.on('exit', resolve))
  return {
    pid: child.pid,
    ended,
    output: () => output,
    /** One that does not end by itself is made to. */
    kill: (signal = 'SIGTERM') => {
      child.kill(signal)
      const timer = setTimeout(() => child.kill('SIGKILL'), LONGEST_END)
      return ended.finally(() => clearTimeout(timer))
    },
    isRunning: () => child.exitCode === null && child.signalCode === null,
  }
}

/** What the server says when the port is its own; until then another program may answer there. */
const LISTENS = 'listens on port'

/** Resolves once the server answers. */
export async function waitForServer(server, port) {
  for (let tries = 0; tries < 240 && server.isRunning(); tries++) {
    const isOurs = server.output().includes(`${LISTENS} ${port}`)
    const answer = isOurs && (await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => null))
    if (answer && answer.ok) return
    await new Promise((resolve) => setTimeout(resolve, 250))
  }
  if (server.failure?.()) throw server.failure()
  throw new Error(`The server did not start:\n${server.output() || 'It said nothing.'}`)
}
