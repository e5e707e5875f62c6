import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { buildIfNeeded, ROOT } from './application.mjs'

/** Types, lint, unit tests, browser tests; names of parts as arguments run only those. Ends in one line that counts. */

const wanted = process.argv.slice(2)
const results = join(ROOT, '.yarn-step', 'test-results')
mkdirSync(results, { recursive: true })

/** Else Jest keeps a core of two for itself. */
const TWO_LANES = ['--maxWorkers=2']

const count = { passed: 0, failed: 0 }
for (const [name, run] of Object.entries({ types, lint, unit, browser })) {
  if (wanted.length > 0 && !wanted.includes(name)) continue
  console.log(`\n== ${name}`)
  const { passed, failed } = run()
  count.passed += passed
  count.failed += failed
}
console.log(`\n${count.passed} passed, ${count.failed} failed`)
process.exitCode = count.failed > 0 ? 1 : 0

function types() {
  // Next writes the types of its routes and styles; they must be there before the check.
  return asOne(npm('exec', '--', 'next', 'typegen') && npm('run', 'types'))
}

function lint() {
  return asOne(npm('run', 'lint'))
}

function unit() {
  return jest('unit', TWO_LANES)
}

function browser() {
  buildIfNeeded()
  return jest('browser', ['--config', 'tests/jest.config.mjs', ...TWO_LANES])
}

function npm(...args) {
  return spawnSync('npm', ['--silent', ...args], { cwd: ROOT, stdio: 'inherit' }).status === 0
}

function asOne(passed) {
  return { passed: passed ? 1 : 0, failed: passed ? 0 : 1 }
}

function jest(name, args) {
  const file = join(results, `${name}.json`)
  rmSync(file, { force: true })
  const ok = npm('run', 'unit', '--', ...args, '--json', `--outputFile=${file}`)
  if (!existsSync(file)) return { passed: 0, failed: 1 }
  const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(readFileSync(file, 'utf8'))
  const failed = numFailedTests + numRuntimeErrorTestSuites
  return { passed: numPassedTests, failed: ok ? failed : Math.max(1, failed) }
}
