/** The range test through the interface: what was left behind is found, shown at its place, mended, and undone. */
import { existsSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { sessionOfFile } from './session'

const session = sessionOfFile()

const SHEET = 'ul[aria-label="What was tried, the worst first"]'
const grades = (): Promise<(string | undefined)[]> =>
  session.page.$$eval(`${SHEET} button`, (all) => all.map((e) => (e as HTMLElement).dataset['grade']))

async function openTest(): Promise<void> {
  await session.editor.bench('Rehearse')
  await session.editor.button('Range test…')
  await session.page.waitForSelector('[role=dialog]')
}

describe('the range test', () => {
  test('everything is tried, and Clatter passes', async () => {
    const { editor, page } = session
    await editor.open('clatter-puppet-1', 'rehearse')
    await openTest()
    await editor.button('Test everything')
    await page.waitForSelector(SHEET, { timeout: 90_000 })
    expect((await grades()).length).toBeGreaterThan(30)
    expect(await grades()).not.toContain('broken')
    await page.keyboard.press('Escape')
  })

  test('a claw that nothing carries any more is found, and the sheet says that the puppet has changed', async () => {
    const { editor, page } = session
    await editor.bench('Parts')
    await (await editor.row('Claw left')).click()
    await (await page.waitForSelector('[aria-label=Bind] ::-p-text(None)'))!.click()
    await openTest()
    await page.waitForSelector('[role=dialog] ::-p-text(has changed since)')
    await editor.button('Test again')
    await page.waitForFunction(
      (s) => document.querySelector(`${s} button`)?.getAttribute('data-grade') === 'broken',
      { timeout: 90_000 },
      SHEET,
    )
    expect((await grades())[0]).toBe('broken')
  })

  test('from the fault to its place on the stage', async () => {
    const { editor, page } = session
    await page.click(`${SHEET} button[aria-label="Arm left: broken"]`)
    await page.waitForSelector('figure svg')
    await editor.button('Show it on the stage')
    await page.waitForSelector('a[aria-current=page] ::-p-text(Bones)')
    await page.waitForSelector('[role=dialog]', { hidden: true })
    const { pose, bones } = await editor.document()
    const arm = Object.values(bones).find((b) => b.name === 'Arm left')!
    expect(Math.abs(pose[`bone/${arm.id}/angle`]!)).toBeGreaterThan(20)
  })

  test('a mend in one press, tried again at once, and undone in one step', async () => {
    const { editor, page } = session
    const before = await editor.document()
    await openTest()
    await page.click(`${SHEET} button[aria-label="Arm left: broken"]`)
    await (await page.waitForSelector('[aria-label=Mends] button ::-p-text(carry Claw left)'))!.click()
    await page.waitForFunction(() => document.querySelector('[role=dialog] h3')?.nextElementSibling?.textContent === 'good', {
      timeout: 60_000,
    })
    await page.keyboard.press('Escape')
    await page.waitForSelector('[role=dialog]', { hidden: true })
    const claw = Object.values((await editor.document()).parts).find((p) => p.name === 'Claw left')!
    expect(claw.bind).toMatchObject({ kind: 'attached', how: 'carried' })
    await editor.key('Control', 'z')
    expect((await editor.document()).parts).toEqual(before.parts)
  })

  test('the sheet is saved as a picture', async () => {
    const { editor, page } = session
    await openTest()
    await editor.button('Save sheet')
    const file = join(session.folder, 'clatter-range-test.png')
    await page.waitForFunction(() => !document.querySelector('progress[aria-label=Testing]'), { timeout: 60_000 })
    await expect.poll(() => existsSync(file), { timeout: 20_000 }).toBe(true)
    expect(statSync(file).size).toBeGreaterThan(50_000)
    await page.keyboard.press('Escape')
  })

  test('a test that was cancelled leaves what was known', async () => {
    const { editor, page } = session
    await openTest()
    const before = await grades()
    await editor.button('Test again')
    await (await page.waitForSelector('[role=dialog] button::-p-text(Cancel)'))!.click()
    await page.waitForFunction(() => !document.querySelector('progress[aria-label=Testing]'))
    expect(await grades()).toEqual(before)
    expect(session.errors).toEqual([])
  })
})
