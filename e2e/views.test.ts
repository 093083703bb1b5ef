/** A flat sheet through the real interface: split into views, cut in one, and what was cut is offered in the others. */
import { readFileSync } from 'node:fs'
import type { ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { inView } from '@marionette/core/views/views'
import type { Puppet } from '@marionette/core/puppet/schema'
import { restBounds } from '@marionette/core/parts/tree'
import { lasso, sendToNew } from './cuttingSteps'
import type { Editor, Spot } from './editor'
import { startSession, type Session } from './session'

let session: Session
let page: Page
let editor: Editor

beforeAll(async () => {
  session = await startSession()
  ;({ page, editor } = session)
})
afterAll(() => session?.stop())

const shown = (): Promise<string> => page.$eval('[aria-label=View] [aria-pressed=true]', (e) => e.textContent ?? '')
const cells = (): Promise<string[]> =>
  page.$$eval('[aria-label="View of the cell"]', (all) => all.map((e) => (e as HTMLInputElement).value))
const idOf = (puppet: Puppet, name: string): string => Object.values(puppet.parts).find((p) => p.name === name)!.id

/** Corners of a box on the canvas. */
const box = (l: number, t: number, r: number, b: number): Spot[] => [
  { x: l, y: t },
  { x: r, y: t },
  { x: r, y: b },
  { x: l, y: b },
]

const command = (words: string): Promise<void> => editor.command(words)

describe('a sheet', () => {
  test('shows a cell for each figure', async () => {
    await page.goto(session.server.url)
    const input = (await page.waitForSelector('[data-testid=file-input]')) as ElementHandle<HTMLInputElement>
    await input.uploadFile(session.file('sheet.png', readFileSync(new URL('../demo/dockhand/sheet.png', import.meta.url))))
    await page.waitForFunction(() => location.pathname.startsWith('/puppet/'), { timeout: 60_000 })
    await editor.drawn()
    await command('Split a sheet into views')
    await page.waitForSelector('[data-testid=cells]')
    expect(await cells()).toEqual(['Front', 'Three-quarter', 'Side'])
  })

  test('cells are renamed, taken away and added; two for one view are refused', async () => {
    const [, second] = await page.$$('[aria-label="View of the cell"]')
    await second!.click({ count: 3 })
    await second!.type('Side')
    await expect.poll(() => page.$eval('[role=dialog] p[role=status]', (e) => e.textContent)).toContain('same view')
    await second!.click({ count: 3 })
    await second!.type('Three-quarter')
    await editor.button('Add a cell')
    expect(await cells()).toHaveLength(4)
    await page.click('[aria-label="Remove the cell Back"]')
    expect(await cells()).toEqual(['Front', 'Three-quarter', 'Side'])
  })

  test('is split: one figure in each view, on one spot', async () => {
    await (await page.waitForSelector('[role=dialog] button::-p-text(Split)'))!.click()
    await page.waitForSelector('[data-testid=cells]', { hidden: true, timeout: 30_000 })
    expect(await shown()).toBe('Front')
    const puppet = await editor.document()
    expect(puppet.canvas.width).toBeLessThan(700)
    const feet = puppet.views.map(({ id }) => restBounds(inView(puppet, id), idOf(puppet, 'sheet'))!)
    for (const box of feet) {
      expect(Math.abs(box.maxY - feet[0]!.maxY)).toBeLessThan(2)
      expect(box.minX).toBeGreaterThan(0)
      expect(box.maxX).toBeLessThan(puppet.canvas.width)
    }
  })

  test('its views are shown by a click, by a key, and found again after a reload', async () => {
    await (await page.waitForSelector('[aria-label=View] ::-p-text(Side)'))!.click()
    expect(await shown()).toBe('Side')
    await editor.key('n')
    await expect.poll(shown).toBe('Front')
    await editor.key('Shift', 'n')
    await expect.poll(shown).toBe('Side')
    await editor.saved()
    await page.reload()
    await editor.drawn()
    expect(await shown()).toBe('Side')
    await editor.key('n')
    await expect.poll(shown).toBe('Front')
  })
})

describe('parts in several views', () => {
  test('what is cut in the first is kept in the sheet by itself', async () => {
    await (await editor.row('sheet')).click()
    await editor.tool('Cut')
    const { canvas } = await editor.document()
    await lasso(editor, ...box(10, canvas.height * 0.42, canvas.width - 10, canvas.height * 0.66))
    await page.waitForSelector('[aria-label=Cutting] [role=checkbox][aria-checked=true]')
    await sendToNew(editor, 'Middle', true)
    const puppet = await editor.document()
    expect(Object.keys(puppet.parts[idOf(puppet, 'Middle')]!.art)).toEqual([puppet.view])
  })

  test('the second view offers them, and takes them along', async () => {
    await editor.key('n')
    await expect.poll(shown).toBe('Three-quarter')
    await (await editor.row('sheet')).click()
    const { canvas, view } = await editor.document()
    await lasso(editor, ...box(10, canvas.height * 0.42, canvas.width - 10, canvas.height * 0.66))
    await page.click('[role=combobox][aria-label="Send to"]')
    const offered = await page.waitForFunction(() => {
      const group = [...document.querySelectorAll('[role=group]')].find((e) => e.textContent?.startsWith('Not in this view yet'))
      return group?.querySelector('[role=option]')?.textContent
    })
    const name = (await offered.jsonValue())!
    await page.keyboard.press('Escape')
    await editor.choose('Send to', name)
    const head = idOf(await editor.document(), name)
    await (await page.waitForSelector('[aria-label=Cutting] button[type=submit]'))!.click()
    await expect.poll(async () => (await editor.document()).parts[head]!.art[view] !== undefined).toBe(true)
    await (await editor.row('Middle')).click()
    await page.waitForSelector('::-p-text(In views)')
  })

  test('undo takes it out of that view alone', async () => {
    await editor.key('Control', 'z')
    const puppet = await editor.document()
    expect(Object.keys(puppet.parts[idOf(puppet, 'Middle')]!.art)).toEqual(['front'])
    await editor.key('Control', 'Shift', 'z')
    await expect.poll(async () => Object.keys((await editor.document()).parts[idOf(puppet, 'Middle')]!.art)).toHaveLength(2)
  })

  test('a view is renamed, added and taken away', async () => {
    await editor.key('Control', 'd')
    await editor.button('Add a view')
    await expect.poll(shown).toBe('Back')
    const fields = await page.$$('[aria-label="Name of the view"]')
    await fields.at(-1)!.click({ count: 3 })
    await fields.at(-1)!.type('Rear')
    await page.keyboard.press('Enter')
    await expect.poll(shown).toBe('Rear')
    await page.click('[aria-label="Delete view Rear"]')
    await expect.poll(shown).toBe('Front')
    expect((await editor.document()).views).toHaveLength(3)
    expect(session.errors).toEqual([])
  })
})
