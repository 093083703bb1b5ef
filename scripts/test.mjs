/**
 * npm test: everything that must hold, on a machine that has nothing but Node, npm, python3, make and g++.
 * Checks count as tests, so that the closing line says all: N passed, N failed.
 */
import { spawn, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { checkBudgets } from './budgets.mjs'
import { ensureBuild, ensureChromium, ensurePackages, root } from './setup.mjs'

let passed = 0
/** What failed, by name. */
const failures = []
/** Files of tests with the seconds that they took. */
const files = []

function count(name, isFine, started) {
  if (isFine) passed++
  else failures.push(name)
  console.log(`${isFine ? 'passed' : 'FAILED'}  ${name}  (${((Date.now() - started) / 1000).toFixed(1)} s)`)
}

/** Runs a command that checks something; what it says is shown when it is done. */
function check(name, command, args) {
  const started = Date.now()
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] })
    let said = ''
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk))
    child.on('close', (status) => {
      process.stdout.write(said)
      count(name, status === 0, started)
      resolve()
    })
  })
}

/** Runs checks, two at a time. */
async function inTwos(checks) {
  const waiting = [...checks]
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await check(...next)
  }
  await Promise.all([lane(), lane()])
}

/** Takes in what the test runner reports. */
function take(report) {
  passed += report.numPassedTests
  for (const { name, status, assertionResults, startTime, endTime } of report.testResults) {
    const file = relative(root, name)
    files.push({ file, seconds: (endTime - startTime) / 1000 })
    for (const test of assertionResults) if (test.status === 'failed') failures.push(`${file}: ${test.fullName}`)
    // A file that could not even be loaded has no tests to count.
    if (status === 'failed' && assertionResults.length === 0) failures.push(file)
  }
}

/** Runs projects of the test runner with some workers and adds its counts. */
function suite(workers, ...projects) {
  const folder = mkdtempSync(join(tmpdir(), 'marionette-test-'))
  const report = join(folder, 'report.json')
  const name = projects.join(' and ')
  const args = [
    'vitest',
    'run',
    ...projects.flatMap((p) => ['--project', p]),
    `--maxWorkers=${workers}`,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${report}`,
  ]
  const before = failures.length
  const { status } = spawnSync('npx', args, { cwd: root, stdio: 'inherit' })
  try {
    const read = JSON.parse(readFileSync(report, 'utf8'))
    take(read)
    if (read.numTotalTests === 0) failures.push(`${name}: there were no tests`)
  } catch {
    failures.push(`${name}: there is no report`)
  }
  if (status !== 0 && failures.length === before) failures.push(`${name}: the test runner ended with ${status}`)
  rmSync(folder, { recursive: true, force: true })
}

function closingLines() {
  console.log('The slowest ten files of tests:')
  const slowest = files.sort((a, b) => b.seconds - a.seconds).slice(0, 10)
  for (const { file, seconds } of slowest) console.log(`  ${seconds.toFixed(1).padStart(6)} s  ${file}`)
  for (const name of failures) console.log(`FAILED  ${name}`)
  console.log(`${passed} passed, ${failures.length} failed`)
}

ensurePackages()
const npm = (name, script) => [name, 'npm', ['run', '--silent', script]]
await inTwos([
  npm('lint', 'check:lint'),
  npm('types', 'check:types'),
  npm('layer rules', 'check:layers'),
  npm('formatting', 'check:format'),
  ['schema in docs/format is up to date', process.execPath, ['--import', 'tsx', 'scripts/schema.ts', '--check']],
])
// Each suite has times in which it waits for a disk, a process or a browser.
suite(3, 'unit', 'alone')
if (ensureChromium()) {
  ensureBuild()
  const started = Date.now()
  count('bundles stay within scripts/budgets.json', checkBudgets(), started)
  suite(2, 'browser')
} else failures.push('there is no Chromium for the browser tests; install it or set MARIONETTE_CHROMIUM')
closingLines()
process.exit(failures.length === 0 ? 0 : 1)
