/**
 * Server and command line as plain JavaScript in server/dist: they start four times as fast as through the loader of TypeScript, which has
 * to go through each of some hundred files.
 *
 *     main.mjs      the server       library.mjs   backups
 *     entry.mjs     its workers      rig.mjs       the command line
 */
import { build } from 'esbuild'
import { existsSync, readFileSync, rmSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))
const out = `${root}server/dist`

/** A worker stands beside the server, bundled as it is; files that ship with the sources are read from there. */
const BESIDE_THE_BUNDLE = /server\/jobs\/pool\.ts$/

/** Folder in which a package is found from another folder, as Node looks for it. */
function packageFrom(folder, path) {
  const name = path
    .split('/')
    .slice(0, path.startsWith('@') ? 2 : 1)
    .join('/')
  for (let at = folder; ; at = dirname(at)) {
    const there = join(at, 'node_modules', name)
    if (existsSync(there)) return there
    if (dirname(at) === at) return null
  }
}

/** Packages stay where they are installed; our own come in, and go on finding the files beside their sources. */
const ours = {
  name: 'ours',
  setup(bundle) {
    bundle.onResolve({ filter: /^[^./]/ }, ({ path, kind, resolveDir }) => {
      if (kind === 'entry-point' || path.startsWith('@marionette/')) return undefined
      // There may be two versions of a package; the bundle must find the one that its sources mean.
      const isSame = path.startsWith('node:') || packageFrom(resolveDir, path) === packageFrom(out, path)
      return isSame ? { path, external: true } : { errors: [{ text: `${path} is another version from ${out}` }] }
    })
    bundle.onLoad({ filter: /\.ts$/ }, ({ path }) => {
      const source = readFileSync(path, 'utf8')
      if (!source.includes('import.meta.url') || BESIDE_THE_BUNDLE.test(path)) return undefined
      const here = `new URL('${relative(out, dirname(path))}/', import.meta.url).href`
      return { contents: source.replaceAll('import.meta.url', here), loader: 'ts' }
    })
  },
}

/** Writes server/dist anew. */
export async function bundle() {
  rmSync(out, { recursive: true, force: true })
  await build({
    absWorkingDir: root,
    entryPoints: { main: 'server/main.ts', library: 'server/library.ts', entry: 'server/jobs/worker.ts', rig: 'cli/main.ts' },
    outdir: out,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [ours],
  })
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await bundle()
