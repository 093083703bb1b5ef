/** npm run test:long: what takes too long for every change. Names of files after -- choose some of it. */
import { ensureBuild, ensureChromium, ensurePackages, run } from './setup.mjs'

ensurePackages()
const chosen = process.argv.slice(2)
let isFine = run('npx', ['vitest', 'run', '--project', 'long', ...chosen])
if (chosen.length === 0 || chosen.includes('saving')) {
  const env = { ...process.env, LONG_RUNS: '50000', LONG_EDITS: '2000' }
  isFine = run('npx', ['vitest', 'run', '--project', 'unit', 'app/state/saving'], { env }) && isFine
  ensureBuild()
  isFine = ensureChromium() && run('npx', ['vitest', 'run', '--project', 'browser', 'e2e/saving.test.ts'], { env }) && isFine
}
process.exit(isFine ? 0 : 1)
