/** Pictures of the main views for docs/screenshots, made from the demo data. */
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { launchBrowser, openPage } from './browser'
import { calm } from './calm'
import { Editor } from './editor'
import { filmStrip } from './filmStrip'
import { startTestServer } from './server'

const folder = fileURLToPath(new URL('../docs/screenshots', import.meta.url))
mkdirSync(folder, { recursive: true })

const server = await startTestServer()
const browser = await launchBrowser()
const { page } = await openPage(browser)
const editor = new Editor(page, server.url)
const take = async (name: string): Promise<void> => {
  await calm(page)
  await page.screenshot({ path: join(folder, `${name}.png`) as `${string}.png` })
}

await page.goto(server.url)
await page.waitForSelector('[data-puppet] img')
await take('library')

await editor.open('quill-puppet-1')
await editor.tool('Pose')
await editor.drag({ x: 60, y: 208 }, { x: 120, y: 330 })
await editor.tool('Select')
await (await editor.row('Neck')).click()
await take('quill')

await editor.open('clatter-puppet-1', 'shape')
const { targets: feet } = await editor.document()
const foot = (name: string) => Object.values(feet).find((t) => t.name === name)!.at
await editor.drag(foot('Leg front left foot'), { x: 640, y: 470 })
await editor.drag(foot('Leg back right foot'), { x: 90, y: 420 })
await editor.drag(foot('Leg middle left foot'), { x: 740, y: 560 })
await take('targets')
await editor.open('quill-puppet-1', 'shape')
await editor.drag((await editor.document()).targets['quill-path-3']!.at, { x: 330, y: 420 })
await (await editor.row('Wing near')).click()
await editor.tool('Deform')
await take('deform')

await editor.open('dockhand-puppet-1')
await (await page.waitForSelector('[aria-label=View] ::-p-text(Side)'))!.click()
await editor.tool('Pose')
await editor.drag({ x: 258, y: 500 }, { x: 370, y: 400 })
await editor.key('Control', 'd')
await take('views')
await (await editor.row('Sheet')).click()
await editor.key('Control', 'k')
await (await page.waitForSelector('[role=dialog] input'))!.type('Split a sheet')
await page.waitForSelector('[role=dialog] [aria-selected=true] ::-p-text(Split a sheet)')
await page.keyboard.press('Enter')
await page.waitForSelector('[data-testid=cells] image')
await take('cells')
await page.keyboard.press('Escape')

await editor.open('marlo-puppet-1')
await editor.key('t')
await page.waitForSelector('[aria-label=Templates]')
await take('fit')
await page.keyboard.press('Escape')
await editor.open('marlo-puppet-1')
await page.keyboard.press('Escape')
await page.waitForFunction(() => !document.querySelector('[role=dialog]'))
await (await page.waitForSelector('aside[aria-label=Details] ul button::-p-text(Forearm left)'))!.click()
await editor.button('Range test')
await page.waitForSelector('[data-testid=sweep-counts]', { timeout: 120_000 })
await take('joint')
await (await editor.row('Scarf tail')).click()
await editor.tool('Cut')
const loop = await Promise.all(
  [
    { x: 205, y: 440 },
    { x: 290, y: 430 },
    { x: 300, y: 520 },
    { x: 200, y: 525 },
  ].map((spot) => editor.at(spot)),
)
await page.mouse.move(loop[0]!.x, loop[0]!.y)
await page.mouse.down()
for (const spot of [...loop.slice(1), loop[0]!]) await page.mouse.move(spot.x, spot.y, { steps: 6 })
await page.mouse.up()
await page.waitForSelector('[data-testid=cut-area]')
await page.type('[aria-label="Name of the piece"]', 'Scarf end')
await take('cut')
await (await editor.row('Head')).click()
await page.keyboard.press('Escape')

await editor.tool('Pose')
await editor.drag({ x: 520, y: 622 }, { x: 555, y: 320 })
await editor.drag({ x: 120, y: 622 }, { x: 150, y: 560 })
await editor.drag({ x: 320, y: 220 }, { x: 296, y: 222 })
await editor.drag({ x: 232, y: 500 }, { x: 215, y: 470 })
await take('parts-pose')
await editor.bench('Rehearse')
await (await page.waitForSelector('[aria-label=Clips] [aria-label=Wave]'))!.click()
const ruler = (await (await page.waitForSelector('[data-testid=ruler]'))!.boundingBox())!
await page.mouse.click(ruler.x + 0.49 * ruler.width, ruler.y + 12)
await editor.button('Speak at this moment')
await page.waitForFunction(() => document.querySelectorAll('[data-shape] img').length > 5)
await page.mouse.click(ruler.x + 0.62 * ruler.width, ruler.y + 12)
await take('rehearse')
await editor.key('Control', 'z')

await editor.bench('Bones')
await editor.tool('Limits')
await (await editor.row('Forearm left')).click()
await take('bones-limits')
await page.click('[aria-label="Footlights, the dark theme"]')
await editor.tool('Bones')
// Nothing is selected: the details are those of the puppet, with its stride.
await editor.key('Escape')
await page.waitForSelector('[aria-label="The ring of the stride"]')
await page.$eval('[aria-label="The ring of the stride"]', (ring) => ring.scrollIntoView({ block: 'center' }))
await take('bones-dark')
await page.click('[aria-label="Daylight, the light theme"]')

await (await editor.row('Spine')).click()
await editor.tool('Weigh')
await take('weights')
await editor.tool('Bones')

await editor.bench('Send')
await take('send')

// What answers: the head turned on its pad, and an elbow that is being recorded.
await editor.bench('Shape')
await editor.key('Shift', '0')
await page.click('section[aria-label=Controls] button[aria-expanded=false]')
const pad = (await (await page.waitForSelector('[aria-roledescription=pad]'))!.boundingBox())!
await page.mouse.click(pad.x + 0.94 * pad.width, pad.y + 0.3 * pad.height)
await page.click('aside[aria-label=Roster] [role=tab]::-p-text(Responses)')
await (await page.waitForSelector('ul[aria-label=Responses] button::-p-text(Head turn)'))!.click()
await page.waitForFunction(() => document.querySelectorAll('[aria-label="Stops of Head turn"] img').length === 8)
await take('controls')
await page.click('section[aria-label=Controls] button[aria-expanded=true]')
await (await page.waitForSelector('ul[aria-label=Responses] button::-p-text(Forearm left corrected)'))!.click()
await (await page.waitForSelector('button[aria-label="Stop at 140°"]'))!.click({ count: 2 })
await page.waitForSelector('section[aria-label=Changes] li')
await page.click('aside[aria-label=Roster] [role=tab]::-p-text(Parts)')
await editor.tool('Soft pull')
await page.waitForFunction(() => document.querySelectorAll('[role=group] button img').length >= 2)
await take('record')
await editor.button('Discard')
await page.waitForSelector('button::-p-text(Discard)', { hidden: true })

await page.click('[aria-label="Close the ruler"]')
await editor.bench('Face')
await editor.key('Shift', '0')
await (await page.waitForSelector('[role=treeitem][aria-label=Head] [aria-label=Unfold]'))!.click()
await (await page.waitForSelector('[role=treeitem][aria-label=Mouth] [aria-label=Unfold]'))!.click()
await page.click('[aria-label=Speak]')
await page.waitForSelector('[aria-label="Mouth shapes of the line"] [data-viseme=aa]')
await page.waitForSelector('[aria-label=Speak]')
await editor.key('Control', 'd')
await page.$eval('[aria-label="Mouth shapes of the line"]', (e) => e.scrollTo(0, 0))
const sound = (await (await page.waitForSelector('[aria-label="Mouth shapes of the line"] [data-viseme=aa]'))!.boundingBox())!
await page.mouse.click(sound.x + 8, sound.y + 20)
await take('face')
const path = `${server.url}/api/puppets/marlo-puppet-1`
const { puppet, revision } = (await (await fetch(path)).json()) as { puppet: object; revision: number }
const headers = { 'Content-Type': 'application/json', 'If-Match': `"${revision}"` }
await fetch(path, { method: 'PUT', headers, body: JSON.stringify({ document: { ...puppet, pose: {} } }) })
await editor.bench('Parts')
await editor.drag({ x: 150, y: 560 }, { x: 110, y: 400 })
await page.waitForFunction(() => document.querySelectorAll('[role=dialog] img').length === 2)
await take('conflict')

await filmStrip(browser, server.url, fileURLToPath(new URL('../docs/guide/ferryman.png', import.meta.url)))
await browser.close()
await server.stop()
