/** Artwork that the product was not made for: limbs drawn round, boots that stand close. */
import type { ElementHandle } from 'puppeteer-core'
import { describe, expect, test } from 'vitest'
import type { Part } from '@marionette/core/puppet/schema'
import { restBounds } from '@marionette/core/parts/tree'
import { png } from '@marionette/formats/test/bytes'
import { lasso, sendToNew } from './cuttingSteps'
import { dropFiles } from './editor'
import { sessionOfFile } from './session'

const session = sessionOfFile()

async function take(name: string, bytes: Uint8Array | string): Promise<void> {
  await session.page.goto(session.server.url)
  const input = (await session.page.waitForSelector('[data-testid=file-input]')) as ElementHandle<HTMLInputElement>
  await input.uploadFile(session.file(name, bytes))
  await session.page.waitForFunction(() => location.pathname.startsWith('/puppet/'), { timeout: 60_000 })
  await session.editor.drawn()
}

const part = async (name: string): Promise<Part> => Object.values((await session.editor.document()).parts).find((p) => p.name === name)!
const width = async (name: string): Promise<number> => {
  const box = restBounds(await session.editor.document(), (await part(name)).id)!
  return box.maxX - box.minX
}

/** Two boots of 70 px, 20 px apart. */
const boots = (): Uint8Array =>
  png(300, 160, (x, y) => (y >= 50 && y < 120 && ((x >= 60 && x < 130) || (x >= 150 && x < 220)) ? [90, 54, 44, 255] : [0, 0, 0, 0]))

describe('boots that stand close on one sheet', () => {
  const loop = [
    { x: 50, y: 40 },
    { x: 160, y: 40 },
    { x: 160, y: 130 },
    { x: 50, y: 130 },
  ]

  test('a lasso that takes along a slice of the other one offers to leave it out', async () => {
    await take('boots.png', boots())
    await (await session.editor.row('boots')).click()
    await session.editor.tool('Cut')
    await lasso(session.editor, ...loop)
    await (await session.page.waitForSelector('[aria-label=Cutting] button ::-p-text(Leave out neighbour)'))!.click()
    await session.page.waitForSelector('[aria-label=Cutting] button ::-p-text(Leave out neighbour)', { hidden: true })
    await sendToNew(session.editor, 'Boot clean', true)
    expect(await width('Boot clean')).toBeLessThan(85)
  })

  test('a slice that was taken is found, and removed in one press that can be undone', async () => {
    await lasso(session.editor, { x: 145, y: 40 }, { x: 230, y: 40 }, { x: 230, y: 130 }, { x: 145, y: 130 })
    await sendToNew(session.editor, 'Boot other', true)
    await lasso(session.editor, ...loop)
    await sendToNew(session.editor, 'Boot', true)
    const before = await width('Boot')
    expect(before).toBeGreaterThan(95)
    await (await session.page.waitForSelector('footer button ::-p-text(Remove)'))!.click()
    await expect.poll(() => width('Boot')).toBeLessThan(before - 20)
    await session.editor.key('Control', 'z')
    await expect.poll(() => width('Boot')).toBeCloseTo(before, 3)
  })
})

const LINE = 'fill="#cc8844" stroke="#221a18" stroke-width="4"'
const ARM = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300">
  <rect id="Forearm" x="176" y="126" width="174" height="48" rx="24" ${LINE}/>
  <rect id="Upper arm" x="50" y="126" width="174" height="48" rx="24" ${LINE}/>
</svg>`

describe('an arm that was drawn round, its upper piece on top', () => {
  test('gets a joint as wide as the limb, and round ends that are good at every angle', async () => {
    await take('arm.svg', ARM)
    await (await session.editor.row('Upper arm')).click()
    await session.page.keyboard.down('Control')
    await (await session.editor.row('Forearm')).click()
    await session.page.keyboard.up('Control')
    await session.editor.key('j')
    await session.page.waitForSelector('[aria-label="Radius"]')
    const [joint] = Object.values((await session.editor.document()).joints)
    expect(joint!.radius).toBeGreaterThan(22)
    expect(joint!.radius).toBeLessThan(25)
    await session.editor.button('Round the ends')
    await expect.poll(async () => (await session.editor.history()).join()).toContain('Round the ends')
    // What was rounded is tested at once.
    await session.page.waitForSelector('[data-testid=sweep-verdict][data-grade=good]', { timeout: 60_000 })
  })

  test('a file dropped on the sheet for a new version is that version, not a second copy', async () => {
    const { page, editor } = session
    await (await editor.row('Upper arm')).click()
    await editor.key('u')
    await page.waitForSelector('[role=dialog] ::-p-text(drop it here)')
    const next = ARM.replace('</svg>', '<circle id="Button" cx="300" cy="150" r="6" fill="#225577"/></svg>')
    await dropFiles(page, [{ name: 'arm.svg', text: next }], '[role=dialog]')
    await (await page.waitForSelector('[role=dialog] button ::-p-text(Take over)'))!.click()
    await page.waitForSelector('[role=dialog]', { hidden: true })
    await editor.row('Button')
    expect((await editor.rows()).sort()).toEqual(['Button', 'Forearm', 'Upper arm'])
  })
})
