/** npm run test:long: what takes too long for every change. Names of files after -- choose some of it. */
import { ensureBuild, ensureChromium, ensurePackages, run } from './setup.mjs'

ensurePackages()
const chosen = process.argv.slice(2)
let isFine = run('npx', ['vitest', 'run', '--project', 'long', ...chosen])
const env = { ...process.env, LONG_RUNS: '1', LONG_EDITS: '2000' }
/** Suites of npm test that try more often in the long run. */
const OFTEN = ['server/kill.test.ts', 'demo/marlo', 'formats/psd', 'app/editor/saving']
for (const suite of OFTEN.filter((s) => chosen.length === 0 || chosen.some((c) => s.includes(c))))
  isFine = run('npx', ['vitest', 'run', '--project', 'unit', '--project', 'alone', suite], { env }) && isFine
if (chosen.length === 0 || chosen.includes('saving')) {
  ensureBuild()
  isFine = ensureChromium() && run('npx', ['vitest', 'run', '--project', 'browser', 'e2e/saving.test.ts'], { env }) && isFine
}
process.exit(isFine ? 0 : 1)
