import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import {
  buildIfNeeded,
  environment,
  ROOT,
  runStep,
  startServer,
  startWorker,
  stopSteps,
  waitForServer,
} from './application.mjs'
import { keepAlive } from './keepAlive.mjs'
import { freePort, startPostgres, watchPostgres } from './postgres.mjs'

/** Starts everything on this machine, loads the demo course and serves it until Ctrl-C. */

const data = process.env.YARN_STEP_DATA ?? join(ROOT, '.yarn-step')
const runFile = join(data, 'running.json')
const WANTED_PORT = Number(process.env.PORT ?? 4310)

await main().catch((error) => {
  console.error(error.message)
  process.exitCode = 1
})

async function main() {
  mkdirSync(data, { recursive: true, mode: 0o711 })
  const other = readRun()
  if (other && isOurs(other.demo, 'scripts/demo.mjs')) {
    console.log(
      other.port === null
        ? 'Yarn Step is being started already.'
        : `Yarn Step is already running: http://127.0.0.1:${other.port}`,
    )
    return
  }
  // PostgreSQL is no leftover: it is found running and used.
  if (other) await clearAway([other.children.server, other.children.worker])

  writeRun({ demo: process.pid, port: null, children: {} })
  const postgres = await startPostgres(data)
  const parts = []
  let stopping = false
  const stop = async () => {
    if (stopping) return
    stopping = true
    stopSteps()
    await Promise.all(parts.map((part) => part.kill()))
    postgres.stop()
    rmSync(runFile, { force: true })
  }
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) {
    process.on(signal, () => {
      console.log('\nStopping')
      void stop().then(
        () => process.exit(0),
        (error) => {
          console.error(`Not everything could be stopped: ${error.message}`)
          process.exit(1)
        },
      )
    })
  }
  try {
    await buildIfNeeded()
    const settings = { databaseUrl: postgres.url, data, port: WANTED_PORT }
    await runStep('prepare', environment(settings))
    await runStep('load-demo', environment(settings))
    if (stopping) return
    // Chosen when it is needed: what came before may have taken minutes.
    const port = await portToUse()
    const env = environment({ ...settings, port })
    const server = keepAlive('The server', () => startServer(env))
    const worker = keepAlive('The worker', () => startWorker(env))
    const database = keepAlive('PostgreSQL', () => watchPostgres(postgres))
    parts.push(server, worker, database)
    const children = () => ({ server: server.pid, worker: worker.pid, postgres: database.pid })
    const remember = () => writeRun({ demo: process.pid, port, children: children() })
    setInterval(remember, 500).unref()
    await waitForServer(server, port)
    remember()
    console.log(
      `\nYarn Step is running: http://127.0.0.1:${port}\nRaw files to try: ${join(ROOT, 'demo-files')}\nCtrl-C stops it.`,
    )
    await Promise.race(parts.map(({ ended }) => ended))
    const failure = parts.map((part) => part.failure()).find(Boolean)
    if (failure) throw failure
  } catch (error) {
    // What was told to stop has not failed.
    if (!stopping) throw error
  } finally {
    await stop()
  }
}

function portToUse() {
  return freePort(WANTED_PORT).catch(async () => {
    const free = await freePort()
    console.log(`Port ${WANTED_PORT} is taken by another program, so this uses ${free}.`)
    return free
  })
}

function readRun() {
  return existsSync(runFile) ? JSON.parse(readFileSync(runFile, 'utf8')) : null
}

function writeRun(run) {
  // Put in place at once: who reads it never finds half of it.
  writeFileSync(`${runFile}.draft`, JSON.stringify(run))
  renameSync(`${runFile}.draft`, runFile)
}

/** Whether that number is a process of this installation (numbers are used again after a crash). */
function isOurs(pid, part = '') {
  try {
    const [command, settings] = ['cmdline', 'environ'].map((file) => readFileSync(`/proc/${pid}/${file}`, 'utf8'))
    // A server calls itself by another name, so its settings tell.
    return command.includes(part) && (settings.includes(`YARN_STEP_DATA=${data}`) || settings.includes(`PWD=${ROOT}`))
  } catch {
    return false
  }
}

/** Ends what a crash has left behind, and waits until its port is free again. */
async function clearAway(pids) {
  const left = pids.filter((pid) => pid && isOurs(pid))
  for (const pid of left) process.kill(pid, 'SIGKILL')
  const isPortTaken = () =>
    freePort(WANTED_PORT).then(
      () => false,
      () => true,
    )
  for (let tries = 0; tries < 30 && left.length > 0 && (await isPortTaken()); tries++)
    await new Promise((resolve) => setTimeout(resolve, 100))
}
