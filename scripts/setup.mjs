/** What a fresh machine still lacks: packages, and for the browser tests a Chromium. */
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

export const root = fileURLToPath(new URL('..', import.meta.url))
const stamp = `${root}node_modules/.marionette-install`

/** Runs a command in the project's folder, its output on ours; returns whether it succeeded. */
export function run(command, args, options = {}) {
  return spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options }).status === 0
}

const lockHash = () =>
  createHash('sha256')
    .update(readFileSync(`${root}package-lock.json`))
    .digest('hex')

/** Installs the packages of the lock file unless they are there. Compiling the database module takes a while the first time. */
export function ensurePackages({ quiet = false } = {}) {
  const hash = lockHash()
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) return
  if (!quiet) console.log('Installing packages; the database module is compiled on the way, which can take two minutes.')
  if (!run('npm', ['ci', '--no-audit', '--no-fund'], quiet ? { stdio: ['ignore', 'ignore', 'inherit'] } : {})) {
    console.error('The packages could not be installed.')
    process.exit(1)
  }
  writeFileSync(stamp, hash)
}

const CHROMIUM = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome']

/** Installs Debian's Chromium where it is missing and we may; tells whether there is one. */
export function ensureChromium() {
  const found = () => [process.env.MARIONETTE_CHROMIUM, ...CHROMIUM].some((path) => path && existsSync(path))
  if (found()) return true
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) return false
  console.log('Installing Chromium for the browser tests.')
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  run('apt-get', ['update', '-qq'], { env })
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], { env })
  return found()
}

/** Builds the interface unless the last build was made from the same sources. */
export function ensureBuild({ quiet = false } = {}) {
  const { stdout, status } = spawnSync('git', ['ls-files', '-s', 'app', 'core', 'formats', 'render', 'server', 'package-lock.json'], {
    cwd: root,
    encoding: 'utf8',
  })
  const changed = spawnSync('git', ['status', '--porcelain', '--', 'app', 'core', 'formats', 'render', 'server'], {
    cwd: root,
    encoding: 'utf8',
  })
  const key = status === 0 && changed.stdout === '' ? createHash('sha256').update(stdout).digest('hex') : null
  const mark = `${root}app/dist/.built-from`
  if (key && existsSync(mark) && readFileSync(mark, 'utf8') === key) return
  if (!quiet) console.log('Building the interface.')
  if (!run('npm', ['run', 'build', '--silent', '-w', 'app'], quiet ? { stdio: ['ignore', 'ignore', 'inherit'] } : {})) process.exit(1)
  mkdirSync(`${root}app/dist`, { recursive: true })
  if (key) writeFileSync(mark, key)
}
