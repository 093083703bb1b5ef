/** npm run test:long: what takes too long for every change. Names of files after -- choose some of it. */
import { ensureBuild, ensureChromium, ensurePackages, run } from './setup.mjs'

ensurePackages()
const chosen = process.argv.slice(2)
let isFine = run('npx', ['vitest', 'run', '--project', 'long', ...chosen])
const env = { ...process.env, LONG_RUNS: '1', LONG_EDITS: '2000' }
// What npm test tries as well is tried more often, and with arguments that nobody has seen before.
isFine = run('npx', ['vitest', 'run', '--project', 'unit', '--project', 'alone', ...chosen], { env }) && isFine
if (chosen.length === 0 || chosen.includes('saving')) {
  ensureBuild()
  isFine = ensureChromium() && run('npx', ['vitest', 'run', '--project', 'browser', 'e2e/saving.test.ts'], { env }) && isFine
}
process.exit(isFine ? 0 : 1)
