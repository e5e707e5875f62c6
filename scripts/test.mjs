import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { stripVTControlCharacters } from 'node:util'
import { buildIfNeeded, ROOT } from './application.mjs'

/** Types, lint, unit tests, browser tests; names of parts as arguments run only those. Ends in one line that counts. */

const wanted = process.argv.slice(2)
const results = join(ROOT, '.yarn-step', 'test-results')
mkdirSync(results, { recursive: true })

const FAILURE_LINES = 12

/** Else Jest keeps a core of two for itself. */
const TWO_LANES = ['--maxWorkers=2']

const isWanted = (name) => wanted.length === 0 || wanted.includes(name)
const count = { passed: 0, failed: 0, skipped: 0 }
/** Seconds of each part, file and test. */
const times = { parts: {}, files: {}, tests: {} }
/** What failed, with the first lines of why: it must stand at the end, where it is found. */
const failures = []

const checks = ['types', 'lint'].filter(isWanted)
// Next writes the types of its routes and styles; they must be there before anything is checked.
if (checks.length > 0) await timed('preparing', () => npm('exec', '--', 'next', 'typegen'))
// Each takes a core for a while.
await timed('checks and build', () =>
  Promise.all([...checks.map(check), ...(isWanted('browser') ? [run('build', buildIfNeeded)] : [])]),
)
if (isWanted('unit')) await timed('unit', () => jest('unit', TWO_LANES))
if (isWanted('browser'))
  await timed('browser', () => jest('browser', ['--config', 'tests/jest.config.mjs', ...TWO_LANES]))
writeFileSync(join(results, 'times.json'), JSON.stringify(times, null, 2))
tellTimes()
tellFailures()
const skipped = count.skipped > 0 ? `, ${count.skipped} skipped` : ''
console.log(`\n${count.passed} passed, ${count.failed} failed${skipped}`)
process.exitCode = count.failed > 0 ? 1 : 0

async function timed(name, work) {
  const begun = performance.now()
  await work()
  times.parts[name] = (performance.now() - begun) / 1000
}

/** Runs a script of package.json; what it prints comes as a whole. */
async function check(name) {
  const running = spawn('npm', ['--silent', 'run', name], { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] })
  let printed = ''
  for (const stream of [running.stdout, running.stderr]) stream.on('data', (chunk) => (printed += chunk))
  const [code] = await once(running, 'close')
  console.log(`\n== ${name}\n${printed}`)
  count[code === 0 ? 'passed' : 'failed']++
  if (code !== 0) failures.push([name, printed])
}

/** What fails is told and counted, and keeps nothing else from being tried. */
async function run(name, work) {
  try {
    await work()
  } catch (error) {
    console.error(`\n== ${name}\n${error.message}`)
    count.failed++
    failures.push([name, error.message])
  }
}

async function npm(...args) {
  const running = spawn('npm', ['--silent', ...args], { cwd: ROOT, stdio: 'inherit' })
  return (await once(running, 'close'))[0] === 0
}

/** Runs tests and counts them; one that is left out on this machine is counted as that. */
async function jest(name, args) {
  console.log(`\n== ${name}`)
  const file = join(results, `${name}.json`)
  rmSync(file, { force: true })
  const ok = await npm('run', 'unit', '--', ...args, '--json', `--outputFile=${file}`)
  const all = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null
  const failed = all ? all.numFailedTests + all.numRuntimeErrorTestSuites : 0
  count.passed += all?.numPassedTests ?? 0
  count.failed += ok ? failed : Math.max(1, failed)
  count.skipped += (all?.numPendingTests ?? 0) + (all?.numTodoTests ?? 0)
  for (const { name: path, startTime, endTime, message, assertionResults } of all?.testResults ?? []) {
    const own = relative(ROOT, path)
    times.files[own] = (endTime - startTime) / 1000
    if (message && assertionResults.length === 0) failures.push([own, message])
    for (const { fullName, duration, failureMessages } of assertionResults) {
      times.tests[`${own}: ${fullName}`] = (duration ?? 0) / 1000
      if (failureMessages.length > 0) failures.push([`${own}: ${fullName}`, failureMessages.join('\n')])
    }
  }
}

function tellTimes() {
  const slowest = Object.entries(times.tests)
    .sort(([, a], [, b]) => b - a)
    .slice(0, 10)
  const shown = (seconds) => `${seconds.toFixed(0).padStart(5)} s`
  console.log('\n== times')
  for (const [name, seconds] of Object.entries(times.parts)) console.log(`${shown(seconds)}  ${name}`)
  if (slowest.length > 0) console.log('The ten slowest tests (all of them in .yarn-step/test-results/times.json):')
  for (const [name, seconds] of slowest) console.log(`${shown(seconds)}  ${name}`)
}

function tellFailures() {
  if (failures.length > 0) console.log('\n== failures')
  for (const [name, why] of failures) {
    const lines = stripVTControlCharacters(why).split('\n')
    console.log([name, ...lines.filter((line) => line.trim() !== '').slice(0, FAILURE_LINES)].join('\n    '))
  }
}
