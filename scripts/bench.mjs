/** npm run bench [-- NAME]: one JSON line for each figure. */
import { spawnSync } from 'node:child_process'
import { ensureBuild, ensureChromium, ensurePackages, root } from './setup.mjs'

/** Figures that need a browser and the built interface. */
const LOADS = ['load-library', 'load-stage']

ensurePackages({ quiet: true })
const names = process.argv.slice(2)
const script = (file, args) =>
  spawnSync(process.execPath, ['--expose-gc', '--import', 'tsx', file, ...args], { cwd: root, stdio: 'inherit' }).status ?? 1
const others = names.filter((name) => !LOADS.includes(name))
let status = 0
if (names.length === 0 || others.length > 0) status = script('bench/main.ts', others)
const loads = names.length === 0 ? LOADS : names.filter((name) => LOADS.includes(name))
if (status === 0 && loads.length > 0 && ensureChromium()) {
  ensureBuild({ quiet: true })
  status = script('e2e/load.ts', loads)
}
process.exit(status)
