/** npm run screenshots: the pictures of docs/screenshots from the demo data. */
import { ensureBuild, ensureChromium, ensurePackages, run } from './setup.mjs'

ensurePackages()
if (!ensureChromium()) {
  console.error('There is no Chromium to take pictures with; install it or set MARIONETTE_CHROMIUM.')
  process.exit(1)
}
ensureBuild()
process.exit(run(process.execPath, ['--import', 'tsx', 'e2e/screenshots.ts']) ? 0 : 1)
