/** Rehearse: clips, poses on the line, keys, curves, and that nothing posed is lost. */
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Clip } from '@marionette/core/clips/records'
import { poseInClip, valuesInClip } from '@marionette/core/playing/clips'
import { drawingOf } from '@marionette/core/parts/tree'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { posedPoint } from '@marionette/core/puppet/probe'
import { drawingOfPart } from '@marionette/core/puppet/rig'
import type { Editor } from './editor'
import * as inClips from './rehearsing'
import { startSession, type Session } from './session'

let session: Session
let editor: Editor
let errors: string[]

const HAND = { x: 508, y: 600 }

beforeAll(async () => {
  session = await startSession()
  ;({ editor, errors } = session)
  await editor.open('marlo-puppet-1', 'rehearse')
  await editor.page.waitForSelector('[aria-label=Timeline]')
})

afterAll(() => session?.stop())

const clipNamed = (name: string) => inClips.clipNamed(editor, name)
const acrossAt = (time: number, length: number): Promise<number> => inClips.acrossAt(editor, time, length)
const lookAt = (frame: number, clip: Pick<Clip, 'length' | 'rate'>): Promise<void> => inClips.lookAt(editor, frame, clip)

const NEW = { length: 2, rate: 24 }
const unkeyed = (): Promise<string | null> => inClips.unkeyed(editor)
const poses = (): Promise<string[]> => inClips.poses(editor)

/** The place on the page of a key of a row. */
async function keyPlace(row: string, time: number, length: number): Promise<{ x: number; y: number }> {
  const rows = await editor.page.$$('[aria-label=Channels] button')
  for (const one of rows)
    if ((await one.evaluate((e) => e.textContent ?? '')).startsWith(row)) {
      const box = (await one.boundingBox())!
      return { x: await acrossAt(time, length), y: box.y + box.height / 2 }
    }
  throw new Error(`There is no row ${row}.`)
}

describe('the demo’s wave', () => {
  test('hangs on the line as pictures, is scrubbed, played and stopped, and nothing of that changes the puppet', async () => {
    const before = await editor.document()
    expect(await poses()).toEqual(['Rest', 'Gather', 'Lift', 'Wave out', 'Wave in', 'Wave out', 'Wave in', 'Settle'])
    const rest = await editor.page.$eval('[data-testid=art]', (e) => (e as HTMLCanvasElement).toDataURL())
    await lookAt(36, { length: 3.5, rate: 24 })
    expect(await editor.page.$eval('[data-testid=art]', (e) => (e as HTMLCanvasElement).toDataURL())).not.toBe(rest)
    await editor.page.click('[aria-label=Playing] [aria-label=Play]')
    await editor.page.waitForFunction(() => Number(document.querySelector('[data-testid=playhead]')?.textContent) > 50)
    await editor.page.click('[aria-label=Playing] [aria-label=Stop]')
    expect(await editor.document()).toEqual(before)
  })

  test('looks on the stage as the server renders that moment', async () => {
    await inClips.looksAsRendered(editor, 'Wave', 43)
  })

  test('goes from key to key and by single frames with the keyboard', async () => {
    await lookAt(10, { length: 3.5, rate: 24 })
    const frame = (): Promise<string | null> => editor.page.$eval('[data-testid=playhead]', (e) => e.textContent)
    await editor.key('PageDown')
    expect(await frame()).toBe('12')
    await editor.key('Shift', 'PageDown')
    expect(await frame()).toBe('13')
    await editor.key('PageUp')
    expect(await frame()).toBe('12')
  })
})

describe('a ready motion', () => {
  test('is fitted to Marlo, plays, and is undone', async () => {
    await editor.button('Ready motions')
    await editor.choose('Ready motion', 'Shrug')
    await editor.button('Add as a clip')
    await expect.poll(poses).toEqual(['Rest', 'Gather', 'Shrug', 'Shrug', 'Rest'])
    const { puppet, clip } = await clipNamed('Shrug')
    const arm = `bone/${Object.values(puppet.bones).find((b) => b.name === 'Forearm left')!.id}/angle`
    expect(valuesInClip(puppet, clip, 0.9)[arm]).toBeGreaterThan(60)
    await editor.key('Control', 'z')
    await expect.poll(async () => (await editor.document()).clips.map((c) => c.name)).toEqual(['Wave', 'Look round', 'On the way'])
  })
})

describe('a clip of one’s own', () => {
  test('is posed pose by pose; what is posed and not keyed is never lost when another moment is looked at', async () => {
    await editor.button('New clip')
    await editor.page.waitForSelector('[aria-label=Clips] [aria-label=Clip][aria-current=true]')
    await editor.drag(HAND, { x: 520, y: 640 })
    await expect.poll(unkeyed).toMatch(/posed, not keyed$/)
    await editor.button('As pose')
    await expect.poll(unkeyed).toBe(null)
    expect(await poses()).toEqual(['Pose 1'])
    await lookAt(24, NEW)
    await editor.drag({ x: 512, y: 622 }, { x: 590, y: 330 })
    const posed = await unkeyed()
    await lookAt(30, NEW)
    expect(await unkeyed()).toBe(posed)
    await lookAt(24, NEW)
    await editor.button('As pose')
    await expect.poll(poses).toEqual(['Pose 1', 'Pose 2'])
    const { puppet, clip } = await clipNamed('Clip')
    expect(clip.loose).toEqual({})
    expect(puppet.pose).toEqual({})
    const forearm = `bone/${Object.values(puppet.bones).find((b) => b.name === 'Upper arm left')!.id}/angle`
    expect(valuesInClip(puppet, clip, 1)[forearm]! - valuesInClip(puppet, clip, 0)[forearm]!).toBeGreaterThan(30)
  })

  test('gets a breakdown, anticipation and overshoot', async () => {
    await lookAt(12, NEW)
    await editor.type('Breakdown', '30')
    await (await editor.page.waitForSelector('[aria-label=Details] ::-p-text(Add)'))!.click()
    await expect.poll(poses).toEqual(['Pose 1', 'Breakdown', 'Pose 2'])
    await lookAt(18, NEW)
    await editor.button('Overshoot')
    await lookAt(6, NEW)
    await editor.button('Anticipation')
    const { puppet, clip } = await clipNamed('Clip')
    const arm = `bone/${Object.values(puppet.bones).find((b) => b.name === 'Upper arm left')!.id}/angle`
    const at = (frame: number): number => valuesInClip(puppet, clip, frame / 24)[arm]!
    // Beyond the pose at its time, at the pose four frames later; back before the move begins.
    expect(at(24)).toBeGreaterThan(at(28) + 1)
    expect(at(4)).toBeLessThan(at(0))
    expect(at(12)).toBeGreaterThan(at(0))
    expect(at(12)).toBeLessThan(at(28))
  })

  test('is keyed at once while auto key is on', async () => {
    await editor.page.click('[aria-label=Playing] [role=switch]')
    await editor.page.waitForFunction(() => document.body.innerText.includes('Auto key on'))
    await lookAt(36, NEW)
    const before = (await clipNamed('Clip')).clip
    const lids = await editor.page.waitForSelector('[aria-label=Controls] [data-control=Brows]')
    const box = (await lids!.boundingBox())!
    await editor.page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await editor.page.mouse.down()
    await editor.page.mouse.move(box.x + box.width * 0.9, box.y + box.height / 2, { steps: 4 })
    await editor.page.mouse.up()
    expect(await unkeyed()).toBe(null)
    const { clip, puppet } = await clipNamed('Clip')
    const brows = `control/${puppet.controls.find((c) => c.name === 'Brows')!.id}/value`
    expect(before.layers[0]!.tracks[brows]).toBeUndefined()
    expect(clip.layers[0]!.tracks[brows]!.keys).toMatchObject([{ time: 1.5, pose: null }])
    await editor.page.click('[aria-label=Playing] [role=switch]')
  })

  test('keys are dragged ten times in a row, deleted by key without what they belong to, and undone', async () => {
    const key = await keyPlace('Brows', 1.5, 2)
    await editor.page.mouse.click(key.x, key.y)
    for (let round = 0; round < 10; round++) {
      const [from, to] = round % 2 === 0 ? [1.5, 1.75] : [1.75, 1.5]
      await editor.page.mouse.move(await acrossAt(from!, 2), key.y)
      await editor.page.mouse.down()
      await editor.page.mouse.move(await acrossAt(to!, 2), key.y, { steps: 5 })
      await editor.page.mouse.up()
    }
    const tracks = async () => (await clipNamed('Clip')).clip.layers[0]!.tracks
    const brows = `control/${(await editor.document()).controls.find((c) => c.name === 'Brows')!.id}/value`
    expect((await tracks())[brows]!.keys[0]!.time).toBeCloseTo(1.5, 6)
    const bones = Object.keys((await editor.document()).bones).length
    await editor.page.mouse.click(key.x, key.y)
    await editor.key('Delete')
    await expect.poll(async () => (await tracks())[brows]).toBeUndefined()
    expect(Object.keys((await editor.document()).bones).length).toBe(bones)
    await editor.key('Control', 'z')
    await expect.poll(async () => (await tracks())[brows]?.keys.length).toBe(1)
  })

  test('a curve is shaped by its handles', async () => {
    await editor.key('Shift', 'c')
    await editor.page.waitForSelector('[data-testid=curves]')
    const rows = await editor.page.$$('[aria-label=Channels] button[aria-expanded=false]')
    for (const row of rows) await row.click()
    await (await editor.page.waitForSelector('[aria-label=Channels] ::-p-text(Forearm left)'))!.click()
    const graph = (await (await editor.page.waitForSelector('canvas[aria-label="Curve graph"]'))!.boundingBox())!
    const { puppet, clip } = await clipNamed('Clip')
    const forearm = `bone/${Object.values(puppet.bones).find((b) => b.name === 'Forearm left')!.id}/angle`
    const { keys } = clip.layers[0]!.tracks[forearm]!
    expect(keys.every((k) => k.way !== 'custom')).toBe(true)
    // The last key: its handle towards the one before is level where the curve ends.
    const [a, b] = keys.slice(-2) as [(typeof keys)[0], (typeof keys)[0]]
    const third = b.time - (b.time - a.time) / 3
    const values = keys.map((k) => k.value)
    const y =
      graph.y + graph.height - 14 - ((b.value - Math.min(...values)) / (Math.max(...values) - Math.min(...values))) * (graph.height - 28)
    await editor.page.mouse.move(await acrossAt(third, 2), y)
    await editor.page.mouse.down()
    await editor.page.mouse.move((await acrossAt(third, 2)) + 4, y + 30, { steps: 4 })
    await editor.page.mouse.up()
    await expect
      .poll(async () => (await clipNamed('Clip')).clip.layers[0]!.tracks[forearm]!.keys.some((k) => k.way === 'custom'))
      .toBe(true)
    await editor.key('Shift', 'c')
  })

  test('chosen keys are stretched by the sides of their box, ten times in a row', async () => {
    await (await editor.page.waitForSelector('[aria-label=Channels] ::-p-text(Forearm left)'))!.click()
    const times = async (): Promise<number[]> => {
      const { puppet, clip } = await clipNamed('Clip')
      const forearm = `bone/${Object.values(puppet.bones).find((b) => b.name === 'Forearm left')!.id}/angle`
      return clip.layers[0]!.tracks[forearm]!.keys.map((k) => k.time)
    }
    const before = await times()
    for (let round = 0; round < 10; round++) {
      const side = (await (await editor.page.waitForSelector('[data-testid=lanes] [data-stretch=after]'))!.boundingBox())!
      const [x, y] = [side.x + side.width / 2, side.y + 20]
      await editor.page.mouse.move(x, y)
      await editor.page.mouse.down()
      await editor.page.mouse.move(x + (round % 2 === 0 ? -120 : 120), y, { steps: 4 })
      await editor.page.mouse.up()
      if (round > 0) continue
      const now = await times()
      expect(now[0]).toBe(before[0])
      expect(now.at(-1)!).toBeLessThan(before.at(-1)! - 0.1)
      // All by one factor.
      const factor = (now.at(-1)! - now[0]!) / (before.at(-1)! - before[0]!)
      now.forEach((time, k) => expect(time - now[0]!).toBeCloseTo(factor * (before[k]! - before[0]!), 6))
    }
    const after = await times()
    after.forEach((time, k) => expect(time).toBeCloseTo(before[k]!, 2))
  })

  test('speaks a line: mouth shapes become keys in a layer of their own', async () => {
    await lookAt(24, NEW)
    await editor.button('Speak at this moment')
    await editor.page.waitForFunction(() => document.querySelectorAll('[aria-label="Layers of the clip"] li').length === 2)
    const { puppet, clip } = await clipNamed('Clip')
    const [, spoken] = clip.layers
    expect(spoken!.name).toBe('Good morning, post!')
    const open = `control/${puppet.controls.find((c) => c.voice === 'open')!.id}/value`
    const shapes = spoken!.tracks[open]!.keys.map((k) => k.value)
    expect(Math.max(...shapes)).toBeGreaterThan(0.3)
    expect(clip.length).toBeGreaterThan(2.5)
    // Before it is spoken the mouth is as it was.
    expect(valuesInClip(puppet, clip, 0.3)[open] ?? 0).toBe(valuesInClip(puppet, { ...clip, layers: [clip.layers[0]!] }, 0.3)[open] ?? 0)
    await editor.key('Control', 'z')
    await editor.page.waitForFunction(() => document.querySelectorAll('[aria-label="Layers of the clip"] li').length === 1)
  })

  test('is undone to the beginning, redone, and found again after a reload', async () => {
    // The line that was taken back is spoken again.
    await editor.key('Control', 'y')
    await editor.page.waitForFunction(() => document.querySelectorAll('[aria-label="Layers of the clip"] li').length === 2)
    const made = (await clipNamed('Clip')).clip
    const done = (await editor.history()).length - 1
    await editor.walkTo(0)
    expect((await editor.document()).clips.map((c) => c.name)).toEqual(['Wave', 'Look round', 'On the way'])
    await editor.walkTo(done)
    expect((await clipNamed('Clip')).clip).toEqual(made)
    await editor.page.reload()
    await editor.drawn()
    await (await editor.page.waitForSelector('[aria-label=Clips] [aria-label=Clip]'))!.click()
    await expect.poll(poses).toEqual(['Pose 1', 'Breakdown', 'Pose 2'])
  })

  test('the other benches show the pose as it was', async () => {
    const brows = (): Promise<string | null> =>
      editor.page.$eval('[data-control=Brows] [role=slider], [data-control=Brows][role=slider]', (e) => e.getAttribute('aria-valuenow'))
    await lookAt(24, (await clipNamed('Clip')).clip)
    expect(Number(await brows())).toBeGreaterThan(0.3)
    await editor.bench('Parts')
    await editor.page.waitForFunction(() => !document.querySelector('[aria-label=Timeline]'))
    expect(await brows()).toBe('0')
    expect((await editor.document()).pose).toEqual({})
  })
})

test('the page reported no errors', () => {
  expect(errors).toEqual([])
})

describe('points by hand', () => {
  const NOSE = 'Nose'
  /** Where the lowest point of the nose is seen at a moment of the clip. */
  async function lowest(time: number): Promise<{ x: number; y: number }> {
    const { puppet, clip } = await clipNamed('Wave')
    const frame = posePuppet(puppet, poseInClip(puppet, clip, time))
    const nose = Object.values(puppet.parts).find((p) => p.name === NOSE && drawingOf(puppet, p))!
    const d = drawingOfPart(frame.rig, nose.id)
    const count = frame.rig.drawings[d]!.geometry.points.length / 2
    const points = Array.from({ length: count }, (_, k) => posedPoint(frame, d, k))
    return points.reduce((low, p) => (p.y > low.y ? p : low))
  }

  test('a nose is pulled down at one moment, is as always before it, and comes back by undo', async () => {
    const { page } = editor
    await editor.bench('Rehearse')
    await (await page.waitForSelector('[aria-label=Clips] [aria-label=Wave]'))!.click()
    const { clip } = await clipNamed('Wave')
    await lookAt(24, clip)
    const [before, atRest] = [await lowest(1), await lowest(0)]
    await editor.tool('Points')
    await editor.click({ x: before.x, y: before.y - 12 })
    await page.waitForSelector('[aria-label="Touch-up"]')
    const drawings = JSON.stringify((await editor.document()).drawings)
    await editor.drag(before, { x: before.x + 4, y: before.y + 16 })
    const after = await lowest(1)
    expect(after.y - before.y).toBeGreaterThan(10)
    expect(JSON.stringify((await editor.document()).drawings)).toBe(drawings)
    const rest = await lowest(0)
    expect(Math.hypot(rest.x - atRest.x, rest.y - atRest.y)).toBeLessThan(0.01)
    // What is seen on the stage is what the keys say.
    const hand = (await editor.document()).controls.find(({ place }) => place.on === 'clip')!
    expect((await clipNamed('Wave')).clip.layers[0]!.tracks[`control/${hand.id}/value`]!.keys).toHaveLength(2)
    await editor.key('Control', 'z')
    expect((await editor.document()).controls.some(({ place }) => place.on === 'clip')).toBe(false)
    expect((await lowest(1)).y).toBeCloseTo(before.y, 3)
    await editor.key('Control', 'Shift', 'z')
    expect((await lowest(1)).y).toBeCloseTo(after.y, 3)
    expect(errors).toEqual([])
  })
})
