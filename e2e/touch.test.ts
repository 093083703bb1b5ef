/** Touch-up through the real interface: on a bent drawing, where what is drawn has to be seen where it was drawn. */
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { pointsOf, poseDrawing } from '@marionette/core/touch/posedPaths'
import type { Drawing, Part, Puppet, Vec } from '@marionette/core/puppet/schema'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { posedMap } from '@marionette/core/puppet/posedMap'
import type { Editor } from './editor'
import { startSession, type Session } from './session'
import { drawingBy } from '@marionette/core/artwork/art'

let session: Session
let page: Page
let editor: Editor

const SCARF = 'Scarf tail'

beforeAll(async () => {
  session = await startSession()
  ;({ page, editor } = session)
  await editor.open('marlo-puppet-1', 'shape')
})
afterAll(() => session?.stop())

const named = (puppet: Puppet, name: string): Part => Object.values(puppet.parts).find((p) => p.name === name)!
const drawingOf = (puppet: Puppet, name: string): Drawing => drawingBy(puppet, named(puppet, name).art[puppet.view]!)!

/** Points of a part as they are seen in the saved pose, by id. */
async function seen(name: string): Promise<Map<number, Vec>> {
  const puppet = await editor.document()
  const map = posedMap(posePuppet(puppet), named(puppet, name).id)
  return new Map([...pointsOf(poseDrawing(drawingOf(puppet, name), map))].map(([id, { x, y }]) => [id, { x, y }]))
}

const far = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y)
const lastChange = async (): Promise<string> => (await editor.history()).at(-1)!

async function choose(name: string): Promise<void> {
  await (await editor.row(name)).click()
  await page.waitForSelector(`[role=treeitem][aria-label="${name}"][aria-selected=true]`)
}

describe('a bent drawing', () => {
  test('is bent', async () => {
    const { bones } = await editor.document()
    const { start, end } = Object.values(bones).find((b) => b.name === 'Scarf tip')!
    await page.click('[aria-label="Show bones"]')
    await editor.drag({ x: (start.x + end.x) / 2, y: (start.y + end.y) / 2 }, { x: start.x - 45, y: start.y + 30 })
    expect(Object.keys((await editor.document()).pose)).toHaveLength(1)
    await choose(SCARF)
    await editor.tool('Points')
    await page.waitForSelector('[aria-label="Touch-up"]')
  })

  test('a dragged point is seen under the pointer, and its neighbours stay', async () => {
    const before = await seen(SCARF)
    // The point that is farthest from the others is the easiest to hit.
    const lone = [...before].map(([id, p]) => ({
      id,
      p,
      room: Math.min(...[...before].filter(([o]) => o !== id).map(([, q]) => far(p, q))),
    }))
    const { id, p } = lone.reduce((a, b) => (a.room > b.room ? a : b))
    await editor.drag(p, { x: p.x + 14, y: p.y + 9 })
    const after = await seen(SCARF)
    expect(far(after.get(id)!, { x: p.x + 14, y: p.y + 9 })).toBeLessThan(1)
    for (const [other, q] of before) if (other !== id) expect(far(after.get(other)!, q)).toBeLessThan(0.01)
    expect(await lastChange()).toBe('Move points')
    await editor.key('ArrowRight')
    await expect.poll(async () => (await seen(SCARF)).get(id)!.x - after.get(id)!.x).toBeCloseTo(1, 3)
    await editor.key('Control', 'z')
    await editor.key('Control', 'z')
    await expect.poll(async () => far((await seen(SCARF)).get(id)!, p)).toBeLessThan(0.01)
  })

  test('an oval that is drawn on it is seen where it was drawn', async () => {
    const before = await seen(SCARF)
    await editor.tool('Oval and box')
    const all = [...before.values()]
    const middle = { x: all.reduce((s, p) => s + p.x, 0) / all.length, y: all.reduce((s, p) => s + p.y, 0) / all.length }
    await editor.drag({ x: middle.x - 15, y: middle.y - 10 }, { x: middle.x + 15, y: middle.y + 10 })
    await expect.poll(lastChange).toBe('Draw oval')
    const added = [...(await seen(SCARF))].filter(([id]) => !before.has(id)).map(([, p]) => p)
    expect(added.length).toBeGreaterThanOrEqual(4)
    for (const { x, y } of added) expect(Math.abs(((x - middle.x) / 15) ** 2 + ((y - middle.y) / 10) ** 2 - 1)).toBeLessThan(0.2)
    await editor.key('Control', 'z')
  })

  test('a soft pull moves what is near', async () => {
    const before = await seen(SCARF)
    await editor.tool('Soft pull')
    const [, p] = [...before][0]!
    await editor.drag(p, { x: p.x + 20, y: p.y })
    const after = await seen(SCARF)
    const moves = [...before].map(([id, q]) => ({ near: far(p, q), by: after.get(id)!.x - q.x }))
    expect(moves[0]!.by).toBeGreaterThan(18)
    for (const { near, by } of moves) if (near > 61) expect(Math.abs(by)).toBeLessThan(0.01)
    await editor.key('Control', 'z')
  })
})

describe('new drawings', () => {
  test('a freehand loop closes and becomes a part', async () => {
    await editor.key('Control', 'd')
    await editor.tool('Freehand')
    const at = await Promise.all(
      Array.from({ length: 25 }, (_, i) => editor.at({ x: 120 + 40 * Math.cos(i / 4), y: 250 + 40 * Math.sin(i / 4) })),
    )
    await page.mouse.move(at[0]!.x, at[0]!.y)
    await page.mouse.down()
    for (const { x, y } of at) await page.mouse.move(x, y)
    await page.mouse.up()
    await editor.row('Drawing 1')
    const [shape] = drawingOf(await editor.document(), 'Drawing 1').shapes
    expect(shape!.paths[0]!.closed).toBe(true)
    expect(shape!.paths[0]!.ids.length).toBeLessThan(12)
    expect(shape!.ink).not.toBeNull()
  })

  test('the pen draws corners and curves into it; a point is added, bent, hidden and joined', async () => {
    await editor.tool('Pen')
    await editor.click({ x: 80, y: 330 })
    await editor.drag({ x: 130, y: 330 }, { x: 140, y: 345 })
    await editor.click({ x: 170, y: 370 })
    await editor.key('Enter')
    await expect.poll(async () => drawingOf(await editor.document(), 'Drawing 1').shapes.length).toBe(2)
    const line = async (): Promise<Drawing['shapes'][number]['paths'][number]> =>
      drawingOf(await editor.document(), 'Drawing 1').shapes[1]!.paths[0]!
    expect((await line()).ids).toHaveLength(3)
    await editor.tool('Points')
    await page.keyboard.down('Alt')
    await editor.click({ x: 105, y: 329 })
    await page.keyboard.up('Alt')
    await expect.poll(async () => (await line()).ids.length).toBe(4)
    await page.click('[aria-label="Hide or show the stretches after them"]')
    await expect.poll(async () => (await line()).hidden?.length).toBe(1)
    await page.click('[aria-label="Make corners"]')
    await editor.click({ x: 80, y: 330 })
    await page.keyboard.down('Shift')
    await editor.click({ x: 170, y: 370 })
    await page.keyboard.up('Shift')
    await page.click('[aria-label="Join two points"]')
    await expect.poll(async () => (await line()).closed).toBe(true)
    await editor.button('Taper')
    expect((await line()).widths).toBeUndefined()
    await editor.key('Control', 'z')
    await expect.poll(async () => (await line()).closed).toBe(false)
    await editor.button('Taper')
    await expect.poll(async () => (await line()).widths).toEqual([0, 1, 1, 0])
  })
})

describe('paint', () => {
  test('colours become swatches, and follow them', async () => {
    await editor.button('Take colours in')
    const swatches = async (): Promise<Puppet['palette']> => (await editor.document()).palette
    await expect.poll(async () => (await swatches()).length).toBeGreaterThan(1)
    const [first] = await swatches()
    await page.click(`[aria-label="${first!.name} ${first!.colour}"]`)
    const hex = (await page.waitForSelector(`[aria-label="${first!.name} as hex"]`))!
    await hex.click({ count: 3 })
    await hex.type('#3366cc')
    await page.keyboard.press('Escape')
    await expect.poll(async () => (await swatches())[0]!.colour).toBe('#3366cc')
    const paints = drawingOf(await editor.document(), 'Drawing 1').shapes.flatMap((s) => [s.ink?.paint, s.line?.paint])
    expect(paints.some((p) => p?.kind === 'flat' && p.swatch === first!.id && p.colour === '#3366cc')).toBe(true)
  })

  test('a colour is taken from the stage and painted on; a gradient gets handles', async () => {
    await editor.tool('Paint')
    await page.click('[aria-label="Take a colour from the stage"]')
    await editor.click({ x: 330, y: 520 })
    await page.waitForFunction(() =>
      /Fill #(?!d9956a|3366cc)/.test(
        document.querySelector('[aria-label="Touch-up"] [aria-label^="Fill #"]')?.getAttribute('aria-label') ?? '',
      ),
    )
    await page.click('[aria-label="Paint fills"]')
    await editor.click({ x: 120, y: 250 })
    await expect.poll(lastChange).toBe('Paint')
    await page.click('[aria-label=Gradients]')
    await editor.click({ x: 120, y: 250 })
    await editor.button('Along a line')
    const paint = async (): Promise<unknown> => drawingOf(await editor.document(), 'Drawing 1').shapes[0]!.ink!.paint
    await expect.poll(paint).toMatchObject({ kind: 'linear' })
    const { from } = (await paint()) as { from: Vec }
    await editor.drag(from, { x: from.x + 20, y: from.y + 20 })
    await expect.poll(async () => ((await paint()) as { from: Vec }).from.x - from.x).toBeGreaterThan(18)
    expect(session.errors).toEqual([])
  })

  test('everything is found again after a reload', async () => {
    const before = await editor.document()
    await page.reload()
    await editor.drawn()
    await editor.row('Drawing 1')
    expect(await editor.document()).toEqual(before)
  })
})
