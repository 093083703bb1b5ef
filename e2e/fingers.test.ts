/** The stage under fingers: one poses, two pan and zoom, a second one never takes over what the first one holds. */
import type { CDPSession } from 'puppeteer-core'
import { expect, test } from 'vitest'
import type { Spot } from './editor'
import { sessionOfFile } from './session'

const session = sessionOfFile()
let touch: CDPSession

const fingers = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...spots: Spot[]): Promise<void> =>
  touch.send('Input.dispatchTouchEvent', { type, touchPoints: spots.map(({ x, y }, id) => ({ x, y, id })) })

/** Moves fingers in steps, each from one spot of the page to another. */
async function move(...ways: (readonly [Spot, Spot])[]): Promise<void> {
  for (let k = 1; k <= 6; k++)
    await fingers('touchMove', ...ways.map(([a, b]) => ({ x: a.x + ((b.x - a.x) * k) / 6, y: a.y + ((b.y - a.y) * k) / 6 })))
}

const camera = (): Promise<number[]> =>
  session.page.$eval('[data-testid=overlay]', (e) => (e as HTMLElement).dataset['camera']!.split(' ').map(Number))

test('one finger poses the limb under it', async () => {
  const { editor, page } = session
  await editor.open('marlo-puppet-1', 'parts')
  await editor.tool('Pose')
  touch = await page.createCDPSession()
  const [from, to] = [await editor.at({ x: 520, y: 622 }), await editor.at({ x: 560, y: 400 })]
  await fingers('touchStart', from)
  await move([from, to])
  await fingers('touchEnd')
  expect((await editor.history()).at(-1)).toBe('Reach with Forearm left')
})

test('two fingers pan and zoom, ten times in a row, and change nothing of the puppet', async () => {
  const { editor } = session
  const before = await editor.document()
  for (let k = 0; k < 10; k++) {
    const [zoom] = await camera()
    const out = k % 2 === 0
    const [near, far] = [40, 120]
    const at = (reach: number): [Spot, Spot] => [
      { x: 620 - reach, y: 300 },
      { x: 620 + reach, y: 300 },
    ]
    const [a, b] = at(out ? near : far)
    const [c, d] = at(out ? far : near)
    await fingers('touchStart', a)
    await fingers('touchStart', a, b)
    await move([a, c], [b, d])
    await fingers('touchEnd')
    await expect.poll(async () => (await camera())[0]! / zoom!).toBeCloseTo(out ? 3 : 1 / 3, 1)
  }
  expect(await editor.document()).toEqual(before)
})

test('a second finger calls off what the first one drags', async () => {
  const { editor } = session
  const before = await editor.document()
  const from = await editor.at({ x: 520, y: 622 })
  const to = { x: from.x + 30, y: from.y - 120 }
  await fingers('touchStart', from)
  await move([from, to])
  await fingers('touchStart', to, { x: to.x - 200, y: to.y })
  await fingers('touchEnd')
  expect(await editor.document()).toEqual(before)
  expect(session.errors).toEqual([])
})

test('a finger that rests opens the menu of what lies there, and poses nothing', async () => {
  const { editor, page } = session
  // The hand back to where it was drawn.
  await editor.key('Control', 'z')
  const before = await editor.document()
  const hand = await editor.at({ x: 520, y: 622 })
  await fingers('touchStart', hand)
  const menu = await page.waitForSelector('[role=menu]')
  await fingers('touchEnd')
  expect(await page.$$eval('[role=menuitem]', (all) => all.map((e) => e.textContent))).toEqual(
    expect.arrayContaining(['Hand left', 'RenameF2']),
  )
  await (await menu!.waitForSelector('::-p-text(Hand left)'))!.click()
  await page.waitForSelector('[role=menu]', { hidden: true })
  await page.waitForFunction(() => document.querySelector<HTMLInputElement>('[aria-label="Name of the selection"]')?.value === 'Hand left')
  expect(await editor.document()).toEqual(before)
})

test('the secondary button opens it, too: what is chosen there is done to what lies there', async () => {
  const { editor, page } = session
  await editor.tool('Select')
  const cap = await editor.at({ x: 320, y: 70 })
  await page.mouse.click(cap.x, cap.y, { button: 'right' })
  await page.waitForSelector('[role=menu]')
  const [name] = await page.$$eval('[role=menuitem]', (all) => all.map((e) => e.textContent))
  await (await page.waitForSelector('[role=menuitem] ::-p-text(Show or hide)'))!.click()
  await expect.poll(async () => (await editor.history()).at(-1)).toMatch(/^Hide/)
  expect(Object.values((await editor.document()).parts).find((p) => p.name === name)?.visible).toBe(false)
  await editor.key('Control', 'z')
})

test('what Alt does can be had without a keyboard: a key is held on the stage', async () => {
  const { editor, page } = session
  await editor.bench('Shape')
  await editor.key('Control', 'd')
  await editor.tool('Oval and box')
  const hold = await page.waitForSelector('[aria-label="Keys to hold"] ::-p-text(Alt)')
  await hold!.click()
  const middle = { x: 320, y: 420 }
  const [from, to] = [await editor.at(middle), await editor.at({ x: 380, y: 460 })]
  await fingers('touchStart', from)
  await move([from, to])
  await fingers('touchEnd')
  await hold!.click()
  await page.waitForSelector('[aria-label="Keys to hold"] [aria-pressed=true]', { hidden: true })
  const oval = Object.values((await editor.document()).parts).find((p) => p.name === 'Drawing 1')!
  expect(oval.pivot.x).toBeCloseTo(middle.x, 0)
  expect(oval.pivot.y).toBeCloseTo(middle.y, 0)
  await editor.key('Control', 'z')
})

test('keys to hold that were hidden stay hidden, however often the stage is touched', async () => {
  const { editor, page } = session
  await editor.command('Show or hide Shift and Alt')
  await page.waitForSelector('[aria-label="Keys to hold"]', { hidden: true })
  const spot = { x: 300, y: 120 }
  await fingers('touchStart', spot)
  await fingers('touchEnd')
  await page.waitForSelector('[role=toolbar]')
  expect(await page.$('[aria-label="Keys to hold"]')).toBeNull()
})

/** Draws with a pen along a way of the page, with a pressure for each share of it. */
async function penStroke(way: (share: number) => Spot, pressure: (share: number) => number): Promise<void> {
  const send = (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', share: number): Promise<void> =>
    touch.send('Input.dispatchMouseEvent', {
      ...way(share),
      type,
      pointerType: 'pen',
      force: pressure(share),
      button: 'left',
      buttons: type === 'mouseReleased' ? 0 : 1,
      clickCount: 1,
    })
  await send('mousePressed', 0)
  for (let k = 1; k <= 24; k++) await send('mouseMoved', k / 24)
  await send('mouseReleased', 1)
}

test('a pen that presses more draws thicker', async () => {
  const { editor, page } = session
  await editor.tool('Freehand')
  const from = { x: 330, y: 300 }
  await penStroke(
    (s) => ({ x: from.x + 160 * s, y: from.y + 20 * Math.sin(3 * s) }),
    (s) => 0.1 + 0.8 * s,
  )
  const { parts, drawings, view } = await editor.document()
  const drawn = Object.values(parts).find((p) => p.name === 'Drawing 1')!
  const { widths } = Object.values(drawings).find((d) => d.id === drawn.art[view])!.shapes[0]!.paths[0]!
  expect(widths![0]).toBeLessThan(0.5)
  expect(widths!.at(-1)).toBeGreaterThan(1.4)
  expect(session.errors).toEqual([])
  await page.keyboard.press('Escape')
})
