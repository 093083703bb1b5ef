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
