/** The stage around the puppet: ground line, camera with keys, scenery that stands still, and a view that is keyed. */
import { describe, expect, test } from 'vitest'
import { nth } from '@marionette/core/kernel/sure'
import { cameraIn } from '@marionette/core/staging/channels'
import { poseInClip } from '@marionette/core/playing/clips'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { clipNamed, lookAt, unkeyed } from './rehearsing'
import { sessionOfFile } from './session'

const session = sessionOfFile()
const NEW = { length: 2, rate: 24 }

const shotAt = async (time: number) => {
  const { puppet, clip } = await clipNamed(session.editor, 'Clip')
  return cameraIn(puppet, poseInClip(puppet, clip, time))!
}

describe('a camera', () => {
  test('is put up by a click, and moved, zoomed and turned on the stage, ten times in a row', async () => {
    const { editor, page } = session
    await editor.open('marlo-puppet-1', 'rehearse')
    await editor.button('New clip')
    await page.waitForSelector('[aria-label=Clips] [aria-label=Clip][aria-current=true]')
    await editor.tool('Camera')
    await page.waitForSelector('::-p-text(puts up a camera)')
    const { width, height } = (await editor.document()).canvas
    await editor.click({ x: width / 2, y: height / 2 })
    await page.waitForSelector('::-p-text(comes nearer or goes away)')
    for (let round = 0; round < 10; round++) {
      const by = round % 2 === 0 ? 90 : -90
      await editor.drag({ x: width / 2, y: height / 2 }, { x: width / 2 + by, y: height / 2 })
    }
    await expect.poll(() => unkeyed(editor)).toMatch(/posed, not keyed$/)
    expect((await shotAt(0)).x).toBeCloseTo(width / 2, 1)
  })

  test('is keyed in a clip like everything else', async () => {
    const { editor, page } = session
    const { width, height } = (await editor.document()).canvas
    await (await page.waitForSelector('label ::-p-text(Auto key)'))!.click()
    await editor.drag({ x: width / 2, y: height / 2 }, { x: width / 2 + 40, y: height / 2 })
    // A corner there and back: what is keyed at the beginning stays as it was.
    const first = await shotAt(0)
    const upper = { x: first.x - width / 2, y: first.y - height / 2 }
    await editor.drag(upper, { x: upper.x + 60, y: upper.y + 90 })
    await editor.drag({ x: upper.x + 60, y: upper.y + 90 }, upper)
    await lookAt(editor, 48, NEW)
    await editor.drag({ x: width / 2, y: height / 2 }, { x: width / 2, y: height / 2 - 200 })
    const before = await shotAt(2)
    // The lower left corner, half way to the middle: twice as near.
    const corner = { x: before.x - width / 2, y: before.y + height / 2 }
    await editor.drag(corner, { x: (corner.x + before.x) / 2, y: (corner.y + before.y) / 2 })
    await (await page.waitForSelector('label ::-p-text(Auto key)'))!.click()
    const [begun, last] = [await shotAt(0), await shotAt(2)]
    expect(last.zoom).toBeCloseTo(2, 1)
    expect(begun.zoom).toBeCloseTo(1, 1)
    expect(begun.x).toBeCloseTo(width / 2 + 40, 0)
    expect(last.y).toBeLessThan(height / 2 - 150)
    // Half way it is half way.
    expect((await shotAt(1)).zoom).toBeCloseTo(1.5, 1)
  })

  test('is looked through, left by Escape, and what is seen is what is exported', async () => {
    const { editor, page } = session
    await editor.key('Control', 'k')
    await (await page.waitForSelector('[cmdk-input]'))!.type('Look through the camera')
    await (await page.waitForSelector('[cmdk-item][aria-selected=true] ::-p-text(Look through the camera)'))!.evaluate(() => undefined)
    await editor.key('Enter')
    await page.waitForSelector('[data-testid=looking]')
    await editor.sharp()
    await editor.key('Escape')
    await page.waitForSelector('[data-testid=looking]', { hidden: true })
  })
})

describe('the stage', () => {
  test('has a ground line under the feet', async () => {
    const { editor, page } = session
    await (await page.waitForSelector('label ::-p-text(Ground line)'))!.click()
    await expect.poll(async () => (await editor.document()).stage.ground).not.toBeNull()
    const { stage, canvas } = await editor.document()
    expect(stage.ground).toBeGreaterThan(0.8 * canvas.height)
  })

  test('has scenery that stands still while the puppet moves', async () => {
    const { editor, page } = session
    await editor.bench('Parts')
    await (await editor.row('Satchel')).click()
    await (await page.waitForSelector(
      '[role=radiogroup][aria-label="Belongs to"] ::-p-text(Behind), [aria-label="Belongs to"] ::-p-text(Behind)',
    ))!.click()
    await expect.poll(async () => (await editor.document()).stage.scenery.length).toBe(1)
    const puppet = await editor.document()
    const satchel = nth(puppet.stage.scenery, 0).part
    expect(puppet.parts[puppet.root]!.children[0]).toBe(satchel)
    const placed = (pose: Record<string, number>): number[] => {
      const { rig, parts } = posePuppet(puppet, pose)
      const at = 6 * rig.parts.index.get(satchel)!
      return [...parts.subarray(at, at + 6)]
    }
    const turned = Object.fromEntries(Object.keys(puppet.bones).map((id) => [`bone/${id}/angle`, 15]))
    expect(placed(turned)).toEqual(placed({}))
    await editor.key('Control', 'z')
    await expect.poll(async () => (await editor.document()).stage.scenery.length).toBe(0)
  })
})

test('the view is keyed, and changes while the clip goes on', async () => {
  const { editor, page } = session
  const listed = (await (await fetch(`${session.server.url}/api/puppets`)).json()) as { id: string; name: string }[]
  await editor.open(listed.find((p) => p.name === 'Dockhand')!.id, 'rehearse')
  await editor.button('New clip')
  await page.waitForSelector('[aria-label=Clips] [aria-label=Clip][aria-current=true]')
  const { view, views } = await editor.document()
  const other = views.find((v) => v.id !== view)!
  const shown = (): Promise<string | null> => page.$eval('[role=group][aria-label=View] [aria-pressed=true]', (e) => e.textContent)
  const first = (await shown())!
  const pick = async (name: string): Promise<void> => {
    await (await page.waitForSelector(`[role=group][aria-label=View] ::-p-text(${name})`))!.click()
    await expect.poll(shown).toBe(name)
  }
  await (await page.waitForSelector('label ::-p-text(Auto key)'))!.click()
  await lookAt(editor, 24, NEW)
  await pick(other.name)
  await lookAt(editor, 0, NEW)
  await pick(first)
  // The puppet itself is seen as before; the clip changes the view at its key.
  expect((await editor.document()).view).toBe(view)
  const { puppet, clip } = await clipNamed(editor, 'Clip')
  for (const [time, name] of [
    [0, first],
    [0.9, first],
    [1.5, other.name],
  ] as const)
    expect(views.find((v) => v.id === posePuppet(puppet, poseInClip(puppet, clip, time)).rig.puppet.view)!.name).toBe(name)
  await lookAt(editor, 36, NEW)
  await expect.poll(shown).toBe(other.name)
  await editor.key('p')
  await expect.poll(shown, { interval: 10 }).toBe(first)
  await expect.poll(shown, { interval: 10 }).toBe(other.name)
  await editor.key('p')
  await editor.bench('Parts')
  await expect.poll(shown).toBe(first)
})

test('the page reported no errors', () => {
  expect(session.errors).toEqual([])
})
