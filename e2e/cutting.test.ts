/** A flat picture through the real interface: an arm is cut, gets its elbow, is swept, twinned and bent on both sides. */
import type { ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { restBounds, restPivot } from '@marionette/core/parts/tree'
import { png } from '@marionette/formats/test/bytes'
import { lasso as drawLasso, sendToNew } from './cuttingSteps'
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

const INK = [43, 29, 26, 255]
/** A flat figure of 400 by 300: a body, and an arm of 36 px that points to the right from the shoulder at (220, 120). */
function flatFigure(): Uint8Array {
  const inBox = (x: number, y: number, l: number, t: number, r: number, b: number): number => Math.min(x - l, r - x, y - t, b - y)
  return png(400, 300, (x, y) => {
    const arm = inBox(x, y, 200, 102, 360, 138)
    const body = inBox(x, y, 130, 80, 230, 260)
    const inside = Math.max(arm, body)
    if (inside < 0) return [0, 0, 0, 0]
    return inside < 3 ? INK : body >= 0 ? [52, 87, 90, 255] : [227, 172, 133, 255]
  })
}

const named = (puppet: Puppet, name: string): Part | undefined => Object.values(puppet.parts).find((p) => p.name === name)
const part = async (name: string): Promise<Part> => named(await editor.document(), name)!
const names = async (): Promise<string[]> => (await editor.rows()).sort()

const lasso = (...spots: Spot[]): Promise<void> => drawLasso(editor, ...spots)
const send = (name: string, keep: boolean): Promise<void> => sendToNew(editor, name, keep)

const far = (a: Spot, b: Spot): number => Math.hypot(a.x - b.x, a.y - b.y)

const area = async (): Promise<number> =>
  Number((await page.$eval('[data-testid=cut-area]', (e) => e.textContent ?? '')).replace(/[^0-9]/g, ''))

describe('a flat picture', () => {
  test('is taken in', async () => {
    await page.goto(session.server.url)
    const input = (await page.waitForSelector('[data-testid=file-input]')) as ElementHandle<HTMLInputElement>
    await input.uploadFile(session.file('figure.png', flatFigure()))
    await page.waitForFunction(() => location.pathname.startsWith('/puppet/'), { timeout: 60_000 })
    await editor.drawn()
    expect(await editor.rows()).toEqual(['figure'])
  })

  test('a selection is drawn, added to, taken from, and grows by pixels', async () => {
    await (await editor.row('figure')).click()
    await editor.tool('Cut')
    await lasso({ x: 240, y: 94 }, { x: 300, y: 94 }, { x: 300, y: 150 }, { x: 240, y: 150 })
    const first = await area()
    expect(Math.abs(first - 3360)).toBeLessThan(150)
    await page.keyboard.down('Shift')
    await lasso({ x: 290, y: 94 }, { x: 320, y: 94 }, { x: 320, y: 150 }, { x: 290, y: 150 })
    await page.keyboard.up('Shift')
    await expect.poll(area).toBeGreaterThan(first + 800)
    await page.keyboard.down('Alt')
    await lasso({ x: 280, y: 94 }, { x: 340, y: 94 }, { x: 340, y: 160 }, { x: 280, y: 160 })
    await page.keyboard.up('Alt')
    await expect.poll(area).toBeLessThan(first)
    const before = await area()
    await page.click('[aria-label="Grow by a pixel"]')
    await expect.poll(area).toBeGreaterThan(before + 100)
    await page.keyboard.press('Escape')
    await page.waitForSelector('[data-testid=cut-area]', { hidden: true })
  })

  test('straight corners and a free stretch make one loop; an area of one colour is picked', async () => {
    for (const spot of [
      { x: 240, y: 95 },
      { x: 340, y: 95 },
      { x: 340, y: 145 },
      { x: 240, y: 145 },
    ])
      await editor.click(spot)
    await page.keyboard.press('Enter')
    await page.waitForSelector('[data-testid=cut-area]')
    expect(Math.abs((await area()) - 5000)).toBeLessThan(60)
    await page.keyboard.press('Escape')
    await page.click('[aria-label="Area of one colour"]')
    await editor.click({ x: 300, y: 120 })
    await page.waitForSelector('[data-testid=cut-area]')
    // The arm's colour inside of its outline, beyond the body.
    expect(Math.abs((await area()) - 127 * 30)).toBeLessThan(400)
    await page.keyboard.press('Escape')
    await page.click('[aria-label="Lasso and straight corners"]')
  })

  test('upper arm and forearm are cut from it, and it can all be undone', async () => {
    await lasso({ x: 214, y: 95 }, { x: 290, y: 95 }, { x: 290, y: 148 }, { x: 214, y: 148 })
    await send('Upper arm left', true)
    expect(await names()).toEqual(['Upper arm left', 'figure'])
    await lasso({ x: 290, y: 95 }, { x: 380, y: 95 }, { x: 380, y: 148 }, { x: 290, y: 148 })
    await send('Forearm left', true)
    const puppet = await editor.document()
    const box = restBounds(puppet, named(puppet, 'Forearm left')!.id)!
    expect(Math.abs(box.minX - 290)).toBeLessThan(1.5)
    expect(named(puppet, 'Forearm left')!.role).toMatch(/^forearm/)
    // Each turns where it hangs on to what is next to it, not in the middle of the sheet.
    expect(far(restPivot(puppet, named(puppet, 'Upper arm left')!.id), { x: 214, y: 120 })).toBeLessThan(6)
    expect(far(restPivot(puppet, named(puppet, 'Forearm left')!.id), { x: 290, y: 120 })).toBeLessThan(6)
    await editor.key('Control', 'z')
    await expect.poll(names).toEqual(['Upper arm left', 'figure'])
    await editor.key('Control', 'Shift', 'z')
    await expect.poll(names).toEqual(['Forearm left', 'Upper arm left', 'figure'])
  })

  test('a small piece leaves its source by default, and the next one goes the same way by one key', async () => {
    await (await editor.row('Forearm left')).click()
    await lasso({ x: 345, y: 95 }, { x: 380, y: 95 }, { x: 380, y: 120 }, { x: 345, y: 120 })
    await page.waitForSelector('[aria-label=Cutting] [role=checkbox][aria-checked=false]')
    await send('Nail', false)
    await lasso({ x: 345, y: 122 }, { x: 380, y: 122 }, { x: 380, y: 150 }, { x: 345, y: 150 })
    await page.keyboard.press('r')
    await editor.row('Nail 2')
    await editor.key('Control', 'z')
    await editor.key('Control', 'z')
    await expect.poll(names).toEqual(['Forearm left', 'Upper arm left', 'figure'])
    await page.keyboard.press('Escape')
  })

  test('a bit that was forgotten is sent to a part that is there, and lies in its picture', async () => {
    await (await editor.row('Forearm left')).click()
    const before = await editor.document()
    await lasso({ x: 286, y: 95 }, { x: 310, y: 95 }, { x: 310, y: 148 }, { x: 286, y: 148 })
    await editor.choose('Send to', 'Upper arm left')
    await page.click('[aria-label=Cutting] button[type=submit]')
    await expect.poll(async () => (await editor.history()).at(-1)).toBe('Cut Upper arm left from Forearm left')
    const after = await editor.document()
    expect(Math.abs(restBounds(after, named(after, 'Upper arm left')!.id)!.maxX - 310)).toBeLessThan(1.5)
    expect(Math.abs(restBounds(after, named(after, 'Forearm left')!.id)!.minX - 309)).toBeLessThan(2.5)
    await editor.key('Control', 'z')
    await expect.poll(async () => (await editor.document()).pictures).toEqual(before.pictures)
  })

  test('the source is cleared behind the arm', async () => {
    await (await editor.row('figure')).click()
    await lasso({ x: 233, y: 95 }, { x: 390, y: 95 }, { x: 390, y: 148 }, { x: 233, y: 148 })
    await send('Rest of the arm', false)
    await (await editor.row('Rest of the arm')).click()
    await page.keyboard.press('Delete')
    await expect.poll(names).toEqual(['Forearm left', 'Upper arm left', 'figure'])
    expect(restBounds(await editor.document(), (await part('figure')).id)!.maxX).toBeLessThan(235)
  })

  test('bones are drawn and the pieces bound to them', async () => {
    await editor.bench('Bones')
    await editor.tool('Draw bones')
    await editor.drag({ x: 222, y: 120 }, { x: 290, y: 120 })
    await editor.drag({ x: 290, y: 120 }, { x: 356, y: 120 })
    await expect.poll(async () => Object.keys((await editor.document()).bones).length).toBe(2)
    await page.click('aside[aria-label=Roster] button::-p-text(Parts)')
    for (const [name, index] of [
      ['Upper arm left', 0],
      ['Forearm left', 1],
    ] as const) {
      await (await editor.row(name)).click()
      await editor.button('Rigid')
      const { bones, skeleton } = await editor.document()
      const bone = index === 0 ? skeleton[0]! : bones[skeleton[0]!]!.children[0]!
      await editor.choose('Bone that it follows', bones[bone]!.name)
      await expect.poll(async () => (await part(name)).bind?.kind).toBe('whole')
    }
  })

  test('the elbow is made, and a sweep finds what is wrong with a plain cut', async () => {
    await editor.bench('Parts')
    await (await editor.row('Upper arm left')).click()
    await page.keyboard.down('Control')
    await (await editor.row('Forearm left')).click()
    await page.keyboard.up('Control')
    await page.keyboard.press('j')
    await page.waitForSelector('::-p-text(Joint on)')
    await editor.type('Pivot x', '290')
    await editor.type('Radius', '18')
    await editor.button('Range test')
    await page.waitForSelector('[data-testid=sweep-counts]', { timeout: 110_000 })
    expect((await counts()).holes).toBeGreaterThan(8)
    expect(await grade()).toBe('broken')
    expect(await page.$$('[aria-label="The joint at its worst angles"] img')).not.toHaveLength(0)
    // The rig report says so, too.
    await page.waitForSelector('aside[aria-label=Roster] footer ::-p-text(of its circle)')
  })

  test('round ends mend it', async () => {
    await editor.button('Round the ends')
    await page.waitForFunction(() => document.querySelector('[data-testid=sweep-counts] [data-count=holes]')?.textContent === '0', {
      timeout: 110_000,
    })
    expect(await counts()).toEqual({ holes: 0, corners: 0, doubled: 0 })
    expect(await grade()).toBe('good')
    expect((await editor.history()).at(-1)).toMatch(/^Round the ends at/)
  })

  test('a twin of the limb has bones of its own, and both arms bend', async () => {
    await (await editor.row('Upper arm left')).click()
    await page.keyboard.down('Control')
    await (await editor.row('Forearm left')).click()
    await page.keyboard.up('Control')
    await editor.type('Mirror at', '180')
    await editor.button('Make twin')
    await editor.row('Forearm right')
    const puppet = await editor.document()
    const [left, right] = ['Forearm left', 'Forearm right'].map((n) => named(puppet, n)!)
    expect(right!.art).toEqual(left!.art)
    expect(Object.keys(puppet.bones)).toHaveLength(4)
    expect(Object.keys(puppet.joints)).toHaveLength(2)
    const bone = (p: Part): string => (p.bind?.kind === 'whole' ? p.bind.bone : '')
    expect(bone(right!)).not.toBe(bone(left!))
    await editor.tool('Select')
    await editor.click({ x: 300, y: 220 })
    await page.keyboard.press('f')
    await editor.sharp()
    await editor.tool('Pose')
    await editor.drag({ x: 345, y: 120 }, { x: 320, y: 60 })
    await editor.drag({ x: 15, y: 120 }, { x: 40, y: 180 })
    const { pose } = await editor.document()
    for (const arm of [left!, right!]) expect(Math.abs(pose[`bone/${bone(arm)}/angle`] ?? 0)).toBeGreaterThan(20)
  })

  test('made independent it has artwork of its own', async () => {
    await (await editor.row('Forearm right')).click()
    await editor.button('Make independent')
    await expect.poll(async () => (await part('Forearm right')).twin).toBeNull()
    expect((await part('Forearm right')).art).not.toEqual((await part('Forearm left')).art)
  })

  test('line and colour become two parts; what is missing is filled in', async () => {
    await (await editor.row('figure')).click()
    await editor.command('Split line and colour')
    await editor.row('figure line')
    const before = restBounds(await editor.document(), (await part('figure')).id)!
    await (await editor.row('figure')).click()
    await editor.tool('Cut')
    await lasso({ x: 200, y: 200 }, { x: 250, y: 200 }, { x: 250, y: 240 }, { x: 200, y: 240 })
    await page.click('[aria-label^="Fill what is missing"]')
    await expect
      .poll(async () => restBounds(await editor.document(), (await part('figure')).id)!.maxX, { timeout: 60_000 })
      .toBeGreaterThan(before.maxX + 10)
    await editor.key('Control', 'z')
    await editor.key('Control', 'z')
    await page.waitForSelector('[role=treeitem][aria-label="figure line"]', { hidden: true })
  })

  test('everything is found again after a reload', async () => {
    const before = await editor.document()
    await page.reload()
    await editor.drawn()
    expect(await editor.document()).toEqual(before)
    expect(session.errors).toEqual([])
  })
})

const grade = (): Promise<string | undefined> => page.$eval('[data-testid=sweep-verdict]', (e) => (e as HTMLElement).dataset['grade'])

async function counts(): Promise<Record<string, number>> {
  return Object.fromEntries(
    await page.$$eval('[data-testid=sweep-counts] dd', (all) =>
      all.map((e) => [(e as HTMLElement).dataset['count']!, Number(e.textContent)]),
    ),
  ) as Record<string, number>
}
