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

/** The same without a word, unless it fails: then with all that it said. */
function runQuietly(command, args) {
  const { status, stdout, stderr } = spawnSync(command, args, { cwd: root, encoding: 'utf8', maxBuffer: 1 << 28 })
  if (status !== 0) process.stderr.write(`${stdout ?? ''}${stderr ?? ''}`)
  return status === 0
}

const runner = (quiet) => (quiet ? runQuietly : run)
const nothing = () => undefined

const lockHash = () =>
  createHash('sha256')
    .update(readFileSync(`${root}package-lock.json`))
    .digest('hex')

/** Installs the packages of the lock file unless they are there. Compiling the database module takes a while the first time. */
export function ensurePackages({ quiet = false, say = quiet ? nothing : console.log } = {}) {
  const hash = lockHash()
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) return
  say('Installing packages; the database module is compiled on the way, which can take some minutes.')
  if (!runner(quiet)('npm', ['ci', '--no-audit', '--no-fund'])) {
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

/** Packages of ours that end up in what is built. */
const SOURCES = ['app', 'cli', 'core', 'demo', 'formats', 'render', 'authoring', 'server']

/** Says of which sources a build would be made; null where they hold changes that are not committed, or outside a repository. */
function sourcesKey() {
  const git = (...args) =>
    spawnSync('git', [...args, '--', ...SOURCES, 'scripts/bundle.mjs', 'package-lock.json'], { cwd: root, encoding: 'utf8' })
  const listed = git('ls-files', '-s')
  if (listed.status !== 0 || git('status', '--porcelain').stdout !== '') return null
  return createHash('sha256').update(listed.stdout).digest('hex')
}

/** Runs a build into a folder unless the last one was made from the same sources; ends the process where it fails. */
function buildOnce(folder, build) {
  const key = sourcesKey()
  const mark = `${root}${folder}/.built-from`
  if (key && existsSync(mark) && readFileSync(mark, 'utf8') === key) return
  if (!build()) process.exit(1)
  mkdirSync(`${root}${folder}`, { recursive: true })
  if (key) writeFileSync(mark, key)
}

/** Bundles server and command line. */
export function ensureBundle({ quiet = false } = {}) {
  buildOnce('server/dist', () => runner(quiet)(process.execPath, ['scripts/bundle.mjs']))
}

/** Builds the interface, and what serves it. */
export function ensureBuild({ quiet = false, say = quiet ? nothing : console.log } = {}) {
  ensureBundle({ quiet })
  buildOnce('app/dist', () => {
    say('Building the interface, which takes about half a minute.')
    return runner(quiet)('npm', ['run', 'build', '--silent', '-w', 'app'])
  })
}

/** Runs what was bundled, in the place of this process. */
export function runBundled(name) {
  ensurePackages({ quiet: true })
  ensureBundle({ quiet: true })
  const { status } = spawnSync(process.execPath, ['--enable-source-maps', `server/dist/${name}.mjs`, ...process.argv.slice(2)], {
    cwd: root,
    stdio: 'inherit',
  })
  process.exit(status ?? 2)
}
