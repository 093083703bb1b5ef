/** npm run bench [-- NAME]: one JSON line for each figure. */
import { spawnSync } from 'node:child_process'
import { ensurePackages, root } from './setup.mjs'

ensurePackages({ quiet: true })
const { status } = spawnSync(process.execPath, ['--expose-gc', '--import', 'tsx', 'bench/main.ts', ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
})
process.exit(status ?? 1)
