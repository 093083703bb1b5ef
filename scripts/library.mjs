/** npm run -s library -- …: backups of the library. */
import { spawnSync } from 'node:child_process'
import { ensurePackages, root } from './setup.mjs'

ensurePackages({ quiet: true })
const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'server/library.ts', ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
})
process.exit(status ?? 2)
