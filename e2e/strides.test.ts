/** Strides as a rigger makes them: a puppet is let walk, tuned on its ring while it does, put into a clip, baked, and undone. */
import { describe, expect, test } from 'vitest'
import { momentsOfClip } from '@marionette/core/playing/moments'
import { nth, sure } from '@marionette/core/kernel/sure'
import { lookAt, looksAsRendered } from './rehearsing'
import { sessionOfFile } from './session'

const session = sessionOfFile()

/** The picture on the stage. */
const picture = (): Promise<string> => session.page.$eval('[data-testid=art]', (e) => (e as HTMLCanvasElement).toDataURL())

const stride = async () => nth((await session.editor.document()).strides, 0)

/** Drags a handle of the ring by so much of a turn. */
async function turnOnRing(handle: string, share: number, options: { readonly isAlone?: boolean } = {}): Promise<void> {
  const { page } = session
  const ring = sure(await (await page.waitForSelector('[aria-label="The ring of the stride"]'))?.boundingBox())
  const [x, y] = [ring.x + ring.width / 2, ring.y + ring.height / 2]
  // Where the handle is grabbed: in the midst of an arc, or at its end.
  const grabbed = await page.$eval(`[aria-label="The ring of the stride"] ${handle}`, (element) => {
    const path = element as unknown as SVGGeometryElement
    const at = path.tagName === 'circle' ? null : path.getPointAtLength(path.getTotalLength() / 3)
    const box = path.getBoundingClientRect()
    const matrix = path.getScreenCTM()
    if (!at || !matrix) return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
    const spot = new DOMPoint(at.x, at.y).matrixTransform(matrix)
    return { x: spot.x, y: spot.y }
  })
  const angle = Math.atan2(grabbed.y - y, grabbed.x - x)
  const radius = Math.hypot(grabbed.x - x, grabbed.y - y)
  if (options.isAlone) await page.keyboard.down('Alt')
  await page.mouse.move(grabbed.x, grabbed.y)
  await page.mouse.down()
  for (let k = 1; k <= 4; k++) {
    const to = angle + (2 * Math.PI * share * k) / 4
    await page.mouse.move(x + radius * Math.cos(to), y + radius * Math.sin(to))
  }
  await page.mouse.up()
  if (options.isAlone) await page.keyboard.up('Alt')
}

/** Scrolls a group of the details into view. */
const showGroup = (label: string): Promise<void> =>
  session.page.waitForSelector(label).then((element) => element?.evaluate((e) => e.scrollIntoView({ block: 'center' })))

describe('a stride', () => {
  test('is made for the legs that are found, and walks at once', async () => {
    const { editor, page } = session
    await editor.open('clatter-puppet-1', 'bones')
    const [made] = (await editor.document()).strides
    await showGroup('[aria-label="The ring of the stride"]')
    await editor.button('Remove')
    await expect.poll(async () => (await editor.document()).strides.length).toBe(0)
    await editor.choose('Gait', 'One after the other')
    await editor.button('Let it walk')
    await page.waitForSelector('[aria-label="The ring of the stride"]')
    const walking = await stride()
    expect(walking.legs.map(({ bones }) => bones)).toEqual(sure(made).legs.map(({ bones }) => bones))
    expect(new Set(walking.legs.map(({ at }) => Math.round(100 * at))).size).toBe(6)
    const before = await picture()
    await expect.poll(picture).not.toBe(before)
  })

  test('is tuned on its ring ten times in a row while it walks', async () => {
    const { editor } = session
    await editor.choose('Gait', 'Three and three')
    const before = (await editor.history()).length
    await showGroup('[aria-label="The ring of the stride"]')
    for (let round = 0; round < 10; round++) await turnOnRing('[data-leg="0"]', round % 2 === 0 ? 0.1 : -0.1)
    expect((await editor.history()).length).toBe(before + 10)
    // Legs that step together went together, and came back.
    const { legs } = await stride()
    expect(legs.filter(({ at }) => Math.min(at, 1 - at) < 0.02)).toHaveLength(3)
    await turnOnRing('[data-leg="0"]', 0.1, { isAlone: true })
    expect((await stride()).legs.filter(({ at }) => Math.min(at, 1 - at) < 0.02)).toHaveLength(2)
    const { duty } = await stride()
    await turnOnRing('[data-lift="0"]', 0.1)
    expect((await stride()).duty).toBeGreaterThan(duty + 0.05)
  })

  test('is tuned in numbers, and stands as before when it is stopped', async () => {
    const { editor, page } = session
    await editor.type('Length', '90')
    await editor.type('Lift', '40')
    expect(await stride()).toMatchObject({ length: 90, lift: 40 })
    await editor.button('Stop')
    await page.waitForSelector('button ::-p-text(Try it)')
    await editor.sharp()
    const still = await picture()
    await editor.button('Try it')
    await expect.poll(picture).not.toBe(still)
    await editor.button('Stop')
    await editor.sharp()
    await expect.poll(picture).toBe(still)
  })

  test('gives way to the shaker, and the shaker to it', async () => {
    const { editor, page } = session
    const selectBone = async (name: string): Promise<void> => {
      await (await page.waitForSelector(`[role=treeitem][aria-label="${name}"] ::-p-text(${name})`))?.click()
      await page.waitForSelector(`[role=treeitem][aria-label="${name}"][aria-selected=true]`)
    }
    await editor.button('Try it')
    await selectBone('Eye left')
    await (await page.waitForSelector('[aria-label=Shaker] ::-p-text(Hop)'))?.click()
    await page.waitForSelector('[aria-label=Shaker] [aria-pressed=true]')
    await editor.key('Escape')
    await page.waitForSelector('button[aria-pressed=false] ::-p-text(Try it)')
    await editor.sharp()
  })

  test('walks and stops in a clip, as it is rendered elsewhere; it is baked to keys, and all of that is undone', async () => {
    const { editor } = session
    await editor.bench('Rehearse')
    await showGroup('[aria-label="The ring of the stride"]')
    const done = (await editor.history()).length
    const clip = async () => nth((await editor.document()).clips, 0)
    await lookAt(editor, 24, await clip())
    await editor.type('Pace', '150')
    await editor.button('Walk from here')
    await lookAt(editor, 60, await clip())
    await editor.button('Stop here')
    const channel = `stride/${(await stride()).id}/speed`
    const keys = sure(nth((await clip()).layers, 0).tracks[channel]).keys
    expect(keys.some(({ time, value }) => Math.abs(time - 1) < 1e-6 && value === 1.5)).toBe(true)
    await looksAsRendered(editor, (await clip()).name, 48)
    const walked = await editor.document()
    await editor.button('Bake to keys')
    await expect.poll(async () => (await clip()).layers.length).toBe(2)
    const baked = await editor.document()
    const [a, b] = [walked, baked].map((puppet) => momentsOfClip(puppet, nth(puppet.clips, 0))(2).frame.bones)
    const off = Math.max(...Array.from(sure(a), (value, k) => Math.abs(value - nth(sure(b), k))))
    expect(off).toBeLessThan(3)
    await editor.walkTo(done - 1)
    expect(nth((await clip()).layers, 0).tracks[channel]).toBeUndefined()
  })

  test('keeps its ground: a line is drawn, and feet stand on it; Backspace makes it even', async () => {
    const { editor } = session
    await editor.tool('Ground')
    await editor.drag({ x: 40, y: 600 }, { x: 760, y: 560 })
    await expect.poll(async () => (await stride()).ground.length).toBeGreaterThan(2)
    const { ground } = await stride()
    expect(ground.every(({ x }, k) => k === 0 || x >= nth(ground, k - 1).x)).toBe(true)
    await editor.key('Backspace')
    await expect.poll(async () => (await stride()).ground.length).toBe(0)
  })
})

describe('idle life', () => {
  test('is added, watched, and taken away', async () => {
    const { editor, page } = session
    await editor.open('marlo-puppet-1', 'bones')
    await (await page.waitForSelector('button ::-p-text(Let it live)'))?.evaluate((e) => e.scrollIntoView({ block: 'center' }))
    await editor.button('Let it live')
    await editor.type('Breaths', '30')
    await editor.sharp()
    const still = await picture()
    await editor.button('Watch it')
    await expect.poll(picture).not.toBe(still)
    await editor.button('Keep still')
    await editor.sharp()
    await expect.poll(picture).toBe(still)
    expect(nth((await editor.document()).idles, 0).breath.rate).toBe(30)
  })
})
