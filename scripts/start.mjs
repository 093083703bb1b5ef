/** npm start: sets up what is missing, builds, and serves. Says little; what fails says everything. */
import { spawn } from 'node:child_process'
import { ensureBuild, ensurePackages, root } from './setup.mjs'

console.log('Eager Marionette')
ensurePackages({ quiet: true, say: console.log })
ensureBuild({ quiet: true, say: console.log })
const server = spawn(process.execPath, ['--enable-source-maps', 'server/dist/main.mjs'], { cwd: root, stdio: 'inherit' })
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code) => process.exit(code ?? 0))
