/** What is dragged by hand, ten times in a row and with everything on the page selected before: no drag is lost, none snaps back. */
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { startSession } from './session'

const session = await startSession()
const { page, editor } = session
afterAll(() => session.stop())

beforeAll(async () => {
  await editor.open('marlo-puppet-1', 'shape')
  await (await page.waitForSelector('section[aria-label=Controls] button::-p-text(Controls)'))!.click()
  await page.waitForSelector('[data-control=Mood]')
})

/** Selects every text of the page, as a drag that began beside something leaves it. */
const selectAll = (): Promise<void> => page.evaluate(() => getSelection()!.selectAllChildren(document.body))

async function boxOf(selector: string): Promise<{ x: number; y: number; width: number; height: number }> {
  const found = (await page.waitForSelector(selector))!
  await found.evaluate((e) => e.scrollIntoView({ block: 'nearest' }))
  return (await found.boundingBox())!
}

/** Drags inside an element between two shares of its size. */
async function drag(selector: string, from: readonly [number, number], to: readonly [number, number]): Promise<void> {
  const { x, y, width, height } = await boxOf(selector)
  await selectAll()
  await page.mouse.move(x + width * from[0], y + height * from[1])
  await page.mouse.down()
  for (let k = 1; k <= 5; k++)
    await page.mouse.move(x + width * (from[0] + ((to[0] - from[0]) * k) / 5), y + height * (from[1] + ((to[1] - from[1]) * k) / 5))
  await page.mouse.up()
}

const now = (selector: string): Promise<number> => page.$eval(`${selector} [role=slider]`, (e) => Number(e.getAttribute('aria-valuenow')))

describe('ten drags in a row', () => {
  test('a slider follows each of them, there and back', async () => {
    const mood = '[data-control=Mood]'
    for (let k = 0; k < 10; k++) {
      const share = k % 2 === 0 ? 0.15 : 0.9
      await drag(mood, [k % 2 === 0 ? 0.7 : 0.4, 0.5], [share, 0.5])
      const value = -1 + 2 * share
      await expect.poll(() => now(mood)).toBeCloseTo(value, 1)
    }
    expect((await editor.history()).filter((label) => label.includes('Mood')).length).toBeGreaterThanOrEqual(10)
  })

  test('so does a pad', async () => {
    const pad = '[aria-roledescription=pad][aria-label="Head turn"]'
    const said = (): Promise<string> => page.$eval(`${pad} [role=status]`, (e) => e.textContent ?? '')
    for (let k = 0; k < 10; k++) {
      const before = await said()
      await drag(pad, [0.5, 0.5], k % 2 === 0 ? [0.15, 0.2] : [0.85, 0.75])
      await expect.poll(said).not.toBe(before)
    }
  })

  test('and the label of a number', async () => {
    await editor.bench('Parts')
    await (await page.waitForSelector('[role=treeitem]'))!.click()
    const label = 'label:has(input[inputmode=decimal]) > span.cursor-ew-resize'
    await page.waitForSelector(label)
    const value = (): Promise<string> => page.$eval(label, (e) => e.parentElement!.querySelector('input')!.value)
    for (let k = 0; k < 10; k++) {
      const before = await value()
      await drag(label, [0.2, 0.5], [0.9, 0.5])
      await expect.poll(value).not.toBe(before)
    }
  })

  test('the page reported no errors', async () => {
    expect(session.errors).toEqual([])
  })
})
