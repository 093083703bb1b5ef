/** load-library and load-stage: from nothing to the first view of the library, and to a usable stage, with a cold cache. */
import { launchBrowser } from './browser'
import { startTestServer } from './server'

const ROUNDS = 30

const SIGHTS: Readonly<Record<string, { path: string; note: string; isThere: string }>> = {
  'load-library': {
    path: '/',
    note: 'a new browser profile, nothing cached, until the first puppet hangs in the library with its picture; budget 1500 ms',
    isThere: `[...document.querySelectorAll('[data-puppet] img')].some((i) => i.complete && i.naturalWidth > 0)`,
  },
  'load-stage': {
    path: '/puppet/marlo-puppet-1/parts',
    note: 'a new browser profile, nothing cached, until Marlo is drawn in full and the roster is there; budget 3000 ms',
    isThere: `document.querySelector('[data-testid=art][data-picture=sharp]') && document.querySelector('[role=treeitem]')`,
  },
}

const server = await startTestServer()
const browser = await launchBrowser()
for (const name of process.argv.slice(2)) {
  const { path, note, isThere } = SIGHTS[name]!
  const times: number[] = []
  for (let round = 0; round < ROUNDS; round++) {
    // A context of its own: what the one before has cached is not there.
    const context = await browser.createBrowserContext()
    const page = await context.newPage()
    await page.setViewport({ width: 1280, height: 800 })
    const start = performance.now()
    await page.goto(`${server.url}${path}`, { waitUntil: 'domcontentloaded' })
    await page.waitForFunction(isThere, { polling: 'raf' })
    times.push(performance.now() - start)
    await context.close()
  }
  times.sort((a, b) => a - b)
  const at = (share: number): number => Math.round(times[Math.floor(share * times.length)]!)
  process.stdout.write(`${JSON.stringify({ name, median_ms: at(0.5), p95_ms: at(0.95), n: 1, reference_ms: null, ratio: null, note })}\n`)
}
await browser.close()
await server.stop()
