/** npm start: sets up what is missing, builds, and serves. */
import { spawn } from 'node:child_process'
import { ensureBuild, ensurePackages, root } from './setup.mjs'

ensurePackages()
ensureBuild()
const server = spawn(process.execPath, ['--enable-source-maps', 'server/dist/main.mjs'], { cwd: root, stdio: 'inherit' })
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code) => process.exit(code ?? 0))
