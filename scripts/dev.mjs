/** npm run dev: the server, and the interface with changes taken up as they are saved. */
import { spawn } from 'node:child_process'
import { ensurePackages, root } from './setup.mjs'

ensurePackages()
const children = [
  spawn(process.execPath, ['--import', 'tsx', '--watch-path=server', '--watch-path=core', 'server/main.ts'], {
    cwd: root,
    stdio: 'inherit',
  }),
  spawn('npm', ['run', 'dev', '--silent', '-w', 'app'], { cwd: root, stdio: 'inherit' }),
]
const stop = () => children.forEach((child) => child.kill())
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, stop)
for (const child of children) child.on('exit', stop)
