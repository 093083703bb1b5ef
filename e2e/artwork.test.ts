/** Layered artwork through the real interface: in, ordered, named, fitted, merged, and taken in again. */
import { existsSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import type { ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { restBounds } from '@marionette/core/parts/tree'
import { demoSvg } from '@marionette/demo/demos'
import { ora, png } from '@marionette/formats/test/bytes'
import type { Editor } from './editor'
import { startSession, type Session } from './session'

let session: Session
let page: Page
let editor: Editor

beforeAll(async () => {
  session = await startSession()
  ;({ page, editor } = session)
})
afterAll(() => session?.stop())

const file = (name: string, bytes: Uint8Array | string): string => session.file(name, bytes)
const named = (puppet: Puppet, name: string): Part => Object.values(puppet.parts).find((p) => p.name === name)!
const input = async (id: string): Promise<ElementHandle<HTMLInputElement>> =>
  (await page.waitForSelector(`[data-testid=${id}]`)) as ElementHandle<HTMLInputElement>
const dialogButton = async (name: string): Promise<void> => (await page.waitForSelector(`[role=dialog] button::-p-text(${name})`))!.click()
const noDialog = (): Promise<unknown> => page.waitForFunction(() => !document.querySelector('[role=dialog]'))

/** Chooses files in the library; several ask whether they are one puppet. */
async function choose(...paths: string[]): Promise<void> {
  await page.goto(session.server.url)
  await (await input('file-input')).uploadFile(...paths)
}

async function opened(): Promise<void> {
  await page.waitForFunction(() => location.pathname.startsWith('/puppet/'), { timeout: 60_000 })
  await editor.drawn()
}

const STACK = (hat: string): string =>
  `<image w="200" h="200"><stack><layer name="Hat" src="${hat}" x="70" y="10"/><stack name="Arm"><layer name="Hand L" src="hand.png" x="140" y="120"/><layer name="Sleeve L" src="sleeve.png" x="138" y="60"/></stack><layer name="Body" src="body.png" x="60" y="50"/></stack></image>`
const pictures = {
  'hat.png': png(60, 30, [60, 90, 90, 255]),
  'hand.png': png(24, 24, [220, 150, 110, 255]),
  'sleeve.png': png(28, 70, [224, 165, 68, 255]),
  'body.png': png(80, 120, [220, 160, 60, 255]),
}

describe('a layered picture', () => {
  test('comes in with its names, order and places, and is seen on the stage', async () => {
    await choose(file('person.ora', ora(STACK('hat.png'), pictures)))
    await opened()
    // Its names say left, and nothing tells whose; that is asked.
    await page.waitForSelector('[role=dialog] ::-p-text(left and right: whose?)')
    await dialogButton('The viewer')
    await dialogButton('Understood')
    await noDialog()
    expect(await editor.rows()).toEqual(['Hat', 'Arm', 'Hand L', 'Sleeve L', 'Body'])
    await editor.sharp()
    const puppet = await editor.document()
    expect(restBounds(puppet, named(puppet, 'Hat').id)).toMatchObject({ minX: 70, minY: 10 })
    await page.waitForSelector('[role=treeitem] img')
  })

  test('parts are selected together, tagged, grouped, filtered and duplicated', async () => {
    await (await editor.row('Hat')).click()
    await page.keyboard.down('Control')
    await (await editor.row('Body')).click()
    await page.keyboard.up('Control')
    await page.click('[role=group][aria-label="Colour tag"] [aria-label="Tag Green"]')
    await editor.key('l')
    let puppet = await editor.document()
    expect([named(puppet, 'Hat'), named(puppet, 'Body')].map((p) => [p.tag, p.locked])).toEqual([[3, true], [3, true]]) // prettier-ignore
    await editor.key('Control', 'z')
    await page.type('input[aria-label="Find parts"]', 'hand')
    await page.waitForFunction(() => document.querySelectorAll('[role=treeitem]').length === 1)
    await page.click('[aria-label="Show all parts"]')
    await (await editor.row('Hat')).click()
    await editor.key('Control', 'Shift', 'd')
    await editor.row('Hat copy')
    puppet = await editor.document()
    expect(named(puppet, 'Hat').locked).toBe(false)
    expect(Object.keys(puppet.pictures)).toHaveLength(5)
    await editor.key('Control', 'z')
  })

  test('several parts get new names by a rule that is shown before', async () => {
    await (await editor.row('Hand L')).click()
    await page.keyboard.down('Control')
    await (await editor.row('Sleeve L')).click()
    await page.keyboard.up('Control')
    await editor.key('Shift', 'F2')
    await page.waitForSelector('[aria-label="Names as they will be"]')
    await dialogButton('Other side')
    await page.waitForSelector('[aria-label="Names as they will be"] ::-p-text(Hand R)')
    await dialogButton('Rename 2')
    await noDialog()
    expect(await editor.rows()).toContain('Sleeve R')
    await editor.key('Control', 'z')
    expect(await editor.rows()).toContain('Sleeve L')
  })

  test('a group is merged to one picture, looks the same, and comes back', async () => {
    await (await editor.row('Arm')).click()
    await inDetails('Merge')
    await page.waitForSelector('::-p-text(in place of 2 parts)', { timeout: 60_000 })
    const puppet = await editor.document()
    const { merged } = named(puppet, 'Arm')
    expect(puppet.pictures[merged!]).toMatchObject({ width: 28, height: 84, x: 138, y: 60 })
    await inDetails('Take merging back')
    expect(named(await editor.document(), 'Arm').merged).toBeNull()
  })

  test('the mesh of a picture gets denser on demand', async () => {
    await (await editor.row('Body')).click()
    const count = (): Promise<number> => page.$eval('[data-testid=mesh-size]', (e) => Number.parseInt(e.textContent!))
    const before = await count()
    await editor.type('Edges', '4')
    await page.waitForFunction((n) => Number.parseInt(document.querySelector('[data-testid=mesh-size]')!.textContent!) > n, {}, before)
    expect(await count()).toBeGreaterThan(2 * before)
  })

  test('a new version is shown side by side and taken over in one step', async () => {
    const next = STACK('hat.png')
      .replace('x="140" y="120"', 'x="150" y="120"')
      .replace('<layer name="Hat"', '<layer name="Scarf" src="sleeve.png" x="80" y="40"/><layer name="Hat"')
    await (await editor.row('Hat')).click()
    await editor.key('u')
    await (
      await input('update-input')
    ).uploadFile(file('person.ora', ora(next, { ...pictures, 'hat.png': png(60, 30, [200, 30, 30, 255]) })))
    await page.waitForSelector('[role=dialog] ::-p-text(3 differences)')
    await page.waitForFunction(() => document.querySelectorAll('[role=dialog] img').length === 5)
    await dialogButton('Take over 3')
    await noDialog()
    const puppet = await editor.document()
    expect(restBounds(puppet, named(puppet, 'Hand L').id)!.minX).toBe(150)
    expect(named(puppet, 'Scarf')).toBeDefined()
    await editor.key('Control', 'z')
    expect(named(await editor.document(), 'Scarf')).toBeUndefined()
  })

  test('leaves as OpenRaster and as a starter file', async () => {
    await editor.bench('Send')
    rmSync(join(session.folder, 'person.ora'))
    await editor.button('Export OpenRaster')
    await expect.poll(() => existsSync(join(session.folder, 'person.ora')), { timeout: 30_000 }).toBe(true)
    await editor.button('SVG')
    await expect.poll(() => existsSync(join(session.folder, 'person-starter.svg')), { timeout: 30_000 }).toBe(true)
    await editor.bench('Parts')
  })

  test('a reference picture lies under it and guides across, and both can be undone', async () => {
    await editor.key('Control', 'd')
    await (await input('reference-input')).uploadFile(file('reference.png', png(50, 100, [10, 200, 10, 255])))
    await page.waitForSelector('[aria-label="Where it lies"]')
    // A message about the file that was taken may still lie over the button.
    await page.$eval('aside[aria-label=Details] ::-p-aria([name="Upright"][role="button"])', (e) => (e as HTMLElement).click())
    await page.waitForSelector('input[aria-label=Upright]')
    let puppet = await editor.document()
    expect(puppet.reference).toMatchObject({ width: 50, height: 100, scale: 2, over: false })
    expect(puppet.guides).toEqual([{ axis: 'x', at: 100 }])
    await editor.key('Control', 'z')
    await editor.key('Control', 'z')
    puppet = await editor.document()
    expect([puppet.reference, puppet.guides]).toEqual([null, []])
  })
})

describe('several files', () => {
  test('become one puppet, the first name at the bottom', async () => {
    await choose(file('wing 1.png', png(30, 20, [1, 2, 3, 255])), file('wing 2.png', png(40, 10, [9, 9, 9, 255])))
    await page.waitForSelector('[role=dialog] ::-p-text(2 files)')
    await dialogButton('One puppet')
    await (await page.waitForSelector('[aria-label="Open wing"]', { timeout: 60_000 }))!.click()
    await opened()
    expect(await editor.rows()).toEqual(['wing 2', 'wing 1'])
  })

  test('or several', async () => {
    await choose(
      file('boat.svg', '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect id="Hull" width="9" height="4"/></svg>'),
      file('gull.png', png(8, 8, [1, 1, 1, 255])),
    )
    await dialogButton('2 puppets')
    await page.waitForSelector('[aria-label="Open boat"]')
    await page.waitForSelector('[aria-label="Open gull"]')
  })
})

describe('a template', () => {
  test('fits a drawing in one press, after a role was given by hand', async () => {
    await choose(file('walker.svg', demoSvg().replace('id="forearm-left"', 'id="thingummy"')))
    await opened()
    await editor.key('t')
    await page.waitForSelector('[aria-label="Templates"]')
    await page.waitForSelector('button[aria-pressed=true] ::-p-text(Person)')
    await editor.choose('Role of thingummy', 'Forearm left')
    await dialogButton('Fit person')
    await page.waitForSelector('[role=dialog] ::-p-text(bones placed)', { timeout: 60_000 })
    await dialogButton('Look at it')
    const puppet = await editor.document()
    expect(Object.keys(puppet.bones).length).toBeGreaterThanOrEqual(19)
    expect(named(puppet, 'thingummy').role).toBe('forearm:left')
    expect((await editor.history()).at(-1)).toBe('Fit Person')
  })

  test('a part is dropped onto a role of the figure', async () => {
    await editor.key('t')
    await page.waitForSelector('[aria-label="Templates"]')
    await editor.choose('Role of hand-right', 'No role')
    const row = (await page.waitForSelector('[aria-label="Parts and their roles"] ::-p-text(hand-right)'))!
    await row.scrollIntoView()
    const from = (await row.boundingBox())!
    const to = (await (await page.waitForSelector('[aria-label^="Hand right: nothing"]'))!.boundingBox())!
    await page.mouse.move(from.x + 5, from.y + 5)
    await page.mouse.down()
    await page.mouse.move(from.x - 40, from.y + 10, { steps: 4 })
    await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 6 })
    await page.waitForSelector('[aria-label^="Hand right"][data-over=true]')
    await page.mouse.up()
    await page.waitForSelector('[aria-label="Hand right: hand-right, 100%"]')
  })

  test('the skeleton is kept as a template of its own, offered with the next puppet, and taken away', async () => {
    await dialogButton('Keep this skeleton as a template')
    await page.waitForSelector('button[aria-pressed=true] ::-p-text(skeleton)')
    await page.keyboard.press('Escape')
    await noDialog()
    await editor.open('quill-puppet-1')
    await editor.key('t')
    await (await page.waitForSelector('[role=dialog] [aria-label^="Remove "]'))!.click()
    await page.waitForFunction(() => document.querySelectorAll('[aria-label=Templates] li').length === 5)
    await page.keyboard.press('Escape')
    await noDialog()
  })

  test('names of sides are converted in one step and back', async () => {
    await editor.button('Limbs are named near and far')
    await dialogButton('The character')
    await dialogButton('Convert all names')
    await noDialog()
    expect(await editor.rows()).toContain('Wing left')
    await editor.key('Control', 'z')
    expect(await editor.rows()).toContain('Wing near')
  })

  test('nothing went wrong on the way', () => expect(session.errors).toEqual([]))
})

/** Presses a button of the details, which is no dialog. */
async function inDetails(name: string): Promise<void> {
  await (await page.waitForSelector(`aside[aria-label=Details] ::-p-aria([name="${name}"][role="button"])`))!.click()
}
