/** Responses and controls through the real interface: recorded, kept, discarded, found from the drawing, undone. */
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Puppet, Response } from '@marionette/core/puppet/schema'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import type { Editor } from './editor'
import { startSession, type Session } from './session'
import { slotOfAddress } from '@marionette/core/kernel/slots'

let session: Session
let page: Page
let editor: Editor

beforeAll(async () => {
  session = await startSession()
  ;({ page, editor } = session)
})
afterAll(() => session?.stop())

const idOf = (list: readonly { id: string; name: string }[], name: string): string => list.find((t) => t.name === name)!.id
const boneId = (p: Puppet, name: string): string => idOf(Object.values(p.bones), name)
const partId = (p: Puppet, name: string): string => Object.values(p.parts).find((t) => t.name === name && t.id !== p.root)!.id
const controlId = (p: Puppet, name: string): string => idOf(p.controls, name)

/** A channel's value as it is seen in the document's own pose. */
const seen = (p: Puppet, address: string): number => {
  const frame = posePuppet(p)
  return frame.values[slotOfAddress(frame.rig.slots, address)]!
}

async function chooseRow(name: string): Promise<void> {
  await (await editor.row(name)).click()
  await page.waitForSelector(`[role=treeitem][aria-label="${name}"][aria-selected=true]`)
}

async function chooseBone(name: string): Promise<void> {
  await editor.bench('Bones')
  await chooseRow(name)
  await editor.bench('Shape')
}

const responseNamed = async (name: string): Promise<Response | undefined> =>
  (await editor.document()).responses.find((r) => r.name === name)

/** Presses Keep and waits until the frame is gone. */
async function keep(): Promise<void> {
  await (await page.waitForSelector('button::-p-text(Keep)'))!.click()
  await page.waitForSelector('button::-p-text(Discard)', { hidden: true })
}

async function record(): Promise<void> {
  const button = (await page.waitForSelector('aside[aria-label=Details] button::-p-text(Record at)'))!
  await button.evaluate((e) => e.scrollIntoView({ block: 'center' }))
  await button.click()
  await page.waitForSelector('button::-p-text(Discard)')
}

async function emptyPuppet(): Promise<void> {
  await editor.open('dockhand-puppet-1', 'shape')
}

describe('an elbow', () => {
  test('is recorded in both directions, and only what was recorded answers', async () => {
    await emptyPuppet()
    const before = await editor.document()
    const elbow = Object.values(before.bones).find((b) => /forearm/i.test(b.name))!
    await chooseBone(elbow.name)
    const arm = Object.values(before.parts).find((p) => p.id !== before.root && p.content.kind !== 'group')!
    for (const [angle, x] of [
      [elbow.limits.max ?? 60, '14'],
      [elbow.limits.min ?? -60, '-9'],
    ] as const) {
      await editor.type('Angle', String(angle))
      await record()
      await page.click('aside[aria-label=Roster] [role=tab]::-p-text(Parts)')
      await chooseRow(arm.name)
      await editor.type('Moved x', x)
      await page.waitForSelector('section[aria-label=Changes] li')
      await keep()
      await chooseBone(elbow.name)
    }
    const puppet = await editor.document()
    const response = puppet.responses.find((r) => r.name === elbow.name)!
    expect(response.stops.map((s) => s.changes.length)).toEqual([1, 1])
    const at = (angle: number): number =>
      seen({ ...puppet, pose: { ...puppet.pose, [`bone/${elbow.id}/angle`]: angle } }, `part/${arm.id}/x`)
    expect(at(elbow.limits.max ?? 60)).toBeCloseTo(14, 6)
    expect(at(elbow.limits.min ?? -60)).toBeCloseTo(-9, 6)
    expect(at(0)).toBe(0)
  })

  test('a stop dragged up its cord gets stronger, and one is recorded for a bone that turns fast', async () => {
    const before = await editor.document()
    const response = before.responses[0]!
    await page.click('aside[aria-label=Roster] [role=tab]::-p-text(Responses)')
    await (await page.waitForSelector(`aside[aria-label=Roster] button::-p-text(${response.name})`))!.click()
    const stop = (await page.waitForSelector('button[aria-label^="Stop at"]'))!
    const box = (await stop.boundingBox())!
    await page.mouse.move(box.x + box.width / 2, box.y + 40)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width / 2, box.y + 20, { steps: 3 })
    await page.mouse.move(box.x + box.width / 2, box.y - 20, { steps: 3 })
    await page.waitForSelector('button[aria-label^="Stop at"] ::-p-text(150%)')
    await page.mouse.up()
    const scales = (await editor.document()).responses[0]!.stops.flatMap((s) => s.changes.map((c) => c.scale))
    expect(scales.sort()).toEqual([1, 1.5])
    await editor.key('Control', 'z')
    await expect.poll(async () => (await editor.document()).responses).toEqual(before.responses)

    const elbow = Object.values(before.bones).find((b) => /forearm/i.test(b.name))!
    await chooseBone(elbow.name)
    await editor.type('At a speed of', '200')
    await page.click('[aria-label="Record at this speed"]')
    await page.waitForSelector('button::-p-text(Discard)')
    await editor.type('Angle', '9')
    await page.waitForSelector('section[aria-label=Changes] li')
    await keep()
    await page.click('aside[aria-label=Roster] [role=tab]::-p-text(Parts)')
    const fast = (await editor.document()).responses.find((r) => r.inputs[0]!.kind === 'speed')!
    expect(fast.stops[0]).toMatchObject({ at: [200], changes: [{ channel: `bone/${elbow.id}/angle` }] })
    await editor.key('Control', 'z')
    await expect.poll(async () => (await editor.document()).responses).toEqual(before.responses)
  })

  test('one recorded change is taken out, and what moves a part is found from it', async () => {
    const before = await editor.document()
    const response = before.responses[0]!
    const part = before.parts[response.stops[0]!.changes.map((c) => ('channel' in c ? c.channel.split('/')[1]! : c.part))[0]!]!
    await chooseRow(part.name)
    const row = (await page.waitForSelector(`button[aria-label="Response ${response.name}"]`))!
    await row.evaluate((e) => e.scrollIntoView({ block: 'center' }))
    await row.click()
    await page.waitForSelector(`[role=group][aria-label="Stops of ${response.name}"]`)
    const stop = (await page.$$('button[aria-label^="Stop at"]'))[0]!
    await stop.click({ count: 2 })
    await page.waitForSelector('section[aria-label=Changes] li')
    await page.click('section[aria-label=Changes] button[aria-label^="Take out"]')
    await page.waitForSelector('section[aria-label=Changes] li', { hidden: true })
    await keep()
    const counts = (await editor.document()).responses[0]!.stops.map((s) => s.changes.length).sort()
    expect(counts).toEqual([0, 1])
  })

  test('what is discarded leaves nothing; leaving by accident is held', async () => {
    const before = await editor.document()
    await chooseBone(Object.values(before.bones).find((b) => /forearm/i.test(b.name))!.name)
    await editor.type('Angle', '25')
    await record()
    await page.click('a[aria-label="To the library"]')
    await page.waitForSelector('[data-sonner-toast] ::-p-text(Keep or discard)')
    const held = (): string => new URL(page.url()).pathname
    expect(held()).toContain('/shape')
    // By key and by the command search as little as by a link.
    await page.keyboard.down('Shift')
    await page.keyboard.press('Digit2')
    await page.keyboard.up('Shift')
    await editor.command('To the library')
    await page.waitForSelector('[role=dialog]', { hidden: true })
    expect(held()).toContain('/shape')
    await (await page.waitForSelector('button::-p-text(Discard)'))!.click()
    await page.waitForSelector('button::-p-text(Discard)', { hidden: true })
    expect((await editor.document()).responses).toEqual(before.responses)
  })

  test('everything is undone and done again', async () => {
    const after = await editor.document()
    await editor.walkTo(0)
    await expect.poll(async () => (await editor.document()).responses.length).toBe(0)
    const labels = await editor.history()
    await editor.walkTo(labels.length - 1)
    await expect.poll(async () => (await editor.document()).responses).toEqual(after.responses)
  })
})

describe('controls', () => {
  test('a slider is made, set by keys, and recorded', async () => {
    await emptyPuppet()
    await page.click('section[aria-label=Controls] button[aria-expanded]')
    await page.click('[aria-label="Add a control"]')
    await (await page.waitForSelector('[role=menuitem]::-p-text(Slider)'))!.click()
    await page.waitForSelector('aside[aria-label=Details] ::-p-text(Slider)')
    await editor.type('Value', '1')
    await record()
    const part = Object.values((await editor.document()).parts).find((p) => p.parent !== null && p.content.kind !== 'group')!
    await page.click('aside[aria-label=Roster] [role=tab]::-p-text(Parts)')
    await chooseRow(part.name)
    await editor.type('Turned', '12')
    await keep()
    const puppet = await editor.document()
    expect(seen(puppet, `part/${part.id}/angle`)).toBe(12)
    expect(puppet.pose).toEqual({ ...puppet.pose, [`control/${controlId(puppet, 'Slider')}/value`]: 1 })
    expect(await responseNamed('Slider')).toBeDefined()
  })

  test('a correction is recorded for two controls together, and the connections show all of it', async () => {
    await page.click('[aria-label="Add a control"]')
    await (await page.waitForSelector('[role=menuitem]::-p-text(Dial)'))!.click()
    await page.waitForSelector('aside[aria-label=Details] ::-p-text(Dial)')
    await editor.type('Value', '1')
    await (await page.waitForSelector('button::-p-text(Correct with Slider)'))!.click()
    await page.waitForSelector('button::-p-text(Discard)')
    const part = partId(
      await editor.document(),
      Object.values((await editor.document()).parts).find((p) => p.parent !== null && p.content.kind !== 'group')!.name,
    )
    await chooseRow((await editor.document()).parts[part]!.name)
    await editor.type('Turned', '5')
    await keep()
    const puppet = await editor.document()
    const correction = puppet.responses.find((r) => r.kind === 'correction')!
    expect(correction.stops[0]!.changes).toEqual([expect.objectContaining({ channel: `part/${part}/angle`, by: -7 })])
    expect(seen(puppet, `part/${part}/angle`)).toBeCloseTo(5, 6)
    await page.click('aside[aria-label=Roster] [role=tab]::-p-text(Responses)')
    await page.click('[aria-label="Connections: what moves what"]')
    await page.waitForSelector('[data-testid=wiring] .react-flow__node')
    const boxes = await page.$$eval('[data-testid=wiring] .react-flow__node b', (all) => all.map((e) => e.textContent))
    expect(boxes).toContain('Slider')
    expect(boxes).toContain(puppet.parts[part]!.name)
    await page.keyboard.press('Escape')
  })

  test('a pad is recorded at its four sides and corners, and every stop is as it was recorded', async () => {
    await page.click('[aria-label="Add a control"]')
    await (await page.waitForSelector('[role=menuitem]::-p-text(Pad)'))!.click()
    await page.waitForSelector('aside[aria-label=Details] ::-p-text(Pad)')
    const before = await editor.document()
    const pad = controlId(before, 'Pad')
    const head = partId(before, 'Head')
    await page.click('aside[aria-label=Roster] [role=tab]::-p-text(Parts)')
    const nine = [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((x) => [x, y] as const)).filter(([x, y]) => x !== 0 || y !== 0)
    for (const [x, y] of nine) {
      await page.click('[aria-label="Arrange Pad"]')
      await editor.type('Right', String(x))
      await editor.type('Up', String(y))
      await record()
      await chooseRow('Head')
      await editor.type('Moved x', String(10 * x + 3 * y))
      await page.waitForSelector('section[aria-label=Changes] li')
      await keep()
    }
    const puppet = await editor.document()
    expect(puppet.responses.find((r) => r.kind === 'pad')!.stops).toHaveLength(8)
    for (const [x, y] of nine) {
      const pose = { [`control/${pad}/x`]: x, [`control/${pad}/y`]: y }
      expect(seen({ ...puppet, pose }, `part/${head}/x`)).toBeCloseTo(10 * x + 3 * y, 4)
    }
  })

  test('a pose is kept as a picture and taken up again', async () => {
    await (await page.waitForSelector('button::-p-text(Keep pose)'))!.click()
    await page.waitForSelector('[aria-label="Take up Pose 1"]')
    await editor.key('Shift', '0')
    await expect.poll(async () => Object.keys((await editor.document()).pose).length).toBe(0)
    await page.click('[aria-label="Take up Pose 1"]')
    await expect.poll(async () => Object.keys((await editor.document()).pose).length).toBeGreaterThan(1)
    expect(session.errors).toEqual([])
  })

  test('all of it is there after a reload', async () => {
    const before = await editor.document()
    await page.reload()
    await editor.drawn()
    expect(await editor.document()).toEqual(before)
    expect(boneId(before, Object.values(before.bones)[0]!.name)).toBeDefined()
  })
})

test('Back does not leave what is recorded', async () => {
  await page.goto(editor.url)
  await (await page.waitForSelector('[aria-label="Open Dockhand"]'))!.click()
  await editor.drawn()
  const { bones } = await editor.document()
  await chooseBone(Object.values(bones).find((b) => /forearm/i.test(b.name))!.name)
  await editor.type('Angle', '25')
  await record()
  await page.evaluate(() => history.back())
  await page.waitForSelector('[data-sonner-toast] ::-p-text(Keep or discard)')
  expect(new URL(page.url()).pathname).toContain('/shape')
  await (await page.waitForSelector('button::-p-text(Discard)'))!.click()
  await page.waitForSelector('button::-p-text(Discard)', { hidden: true })
  await page.evaluate(() => history.back())
  await page.waitForSelector('[aria-label="Open Dockhand"]')
})
