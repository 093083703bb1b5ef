/**
 * npm test: everything that must hold, on a machine that has nothing but Node, npm, python3, make and g++.
 * Checks count as tests, so that the closing line says all: N passed, N failed.
 */
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { checkBudgets } from './budgets.mjs'
import { ensureBuild, ensureChromium, ensurePackages, root, run } from './setup.mjs'

let passed = 0
let failed = 0

function check(name, work) {
  const started = Date.now()
  const ok = work()
  if (ok) passed++
  else failed++
  console.log(`${ok ? 'passed' : 'FAILED'}  ${name}  (${((Date.now() - started) / 1000).toFixed(1)} s)`)
}

/** Runs a project of the test runner and adds its counts. */
function suite(name) {
  const folder = mkdtempSync(join(tmpdir(), 'marionette-test-'))
  const file = join(folder, 'report.json')
  const args = ['vitest', 'run', '--project', name, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`]
  const { status } = spawnSync('npx', args, { cwd: root, stdio: 'inherit' })
  try {
    const report = JSON.parse(readFileSync(file, 'utf8'))
    passed += report.numPassedTests
    failed += report.numFailedTests
    // A file that could not even be loaded has no tests to count.
    const broken = report.testResults.filter((f) => f.status === 'failed' && f.assertionResults.length === 0).length
    failed += broken
    if (status !== 0 && report.numFailedTests + broken === 0) failed++
    if (report.numTotalTests === 0) failed++
  } catch {
    failed++
  }
  rmSync(folder, { recursive: true, force: true })
}

ensurePackages()
const npm = (script) => () => run('npm', ['run', '--silent', script])
check('formatting', npm('check:format'))
check('lint', npm('check:lint'))
check('layer rules', npm('check:layers'))
check('types', npm('check:types'))
check('schema in docs/format is up to date', () => run(process.execPath, ['--import', 'tsx', 'scripts/schema.ts', '--check']))
suite('unit')
if (ensureChromium()) {
  ensureBuild()
  check('bundles stay within scripts/budgets.json', checkBudgets)
  suite('browser')
} else {
  console.log('FAILED  there is no Chromium for the browser tests; install it or set MARIONETTE_CHROMIUM')
  failed++
}
console.log(`${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
