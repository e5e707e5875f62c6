import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { buildIfNeeded, ROOT } from './application.mjs'

/** Types, lint, unit tests, browser tests; names of parts as arguments run only those. Ends in one line that counts. */

const wanted = process.argv.slice(2)
const results = join(ROOT, '.yarn-step', 'test-results')
mkdirSync(results, { recursive: true })

/** Else Jest keeps a core of two for itself. */
const TWO_LANES = ['--maxWorkers=2']

const isWanted = (name) => wanted.length === 0 || wanted.includes(name)
const count = { passed: 0, failed: 0 }

const checks = ['types', 'lint'].filter(isWanted)
// Next writes the types of its routes and styles; they must be there before anything is checked.
if (checks.length > 0) npm('exec', '--', 'next', 'typegen')
// Each takes one core: both at the same time.
await Promise.all(checks.map(check))
if (isWanted('unit')) jest('unit', TWO_LANES)
if (isWanted('browser')) {
  buildIfNeeded()
  jest('browser', ['--config', 'tests/jest.config.mjs', ...TWO_LANES])
}
console.log(`\n${count.passed} passed, ${count.failed} failed`)
process.exitCode = count.failed > 0 ? 1 : 0

/** Runs a script of package.json; what it prints comes as a whole. */
async function check(name) {
  const running = spawn('npm', ['--silent', 'run', name], { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] })
  let printed = ''
  for (const stream of [running.stdout, running.stderr]) stream.on('data', (chunk) => (printed += chunk))
  const [code] = await once(running, 'close')
  console.log(`\n== ${name}\n${printed}`)
  count[code === 0 ? 'passed' : 'failed']++
}

function npm(...args) {
  return spawnSync('npm', ['--silent', ...args], { cwd: ROOT, stdio: 'inherit' }).status === 0
}

/** Runs tests and counts them. */
function jest(name, args) {
  console.log(`\n== ${name}`)
  const file = join(results, `${name}.json`)
  rmSync(file, { force: true })
  const ok = npm('run', 'unit', '--', ...args, '--json', `--outputFile=${file}`)
  const all = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null
  const failed = all ? all.numFailedTests + all.numRuntimeErrorTestSuites : 0
  count.passed += all?.numPassedTests ?? 0
  count.failed += ok ? failed : Math.max(1, failed)
}
