/** Skeletons and deformers through the real interface: targets, chains, weights, cages, bends and pins, each undone and redone. */
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Part, Puppet, Vec } from '@marionette/core/puppet/schema'
import { restMatrix } from '@marionette/core/parts/tree'
import { apply, invert } from '@marionette/core/maths/geometry/affine'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { posedMap } from '@marionette/core/puppet/posedMap'
import { bonePoint } from '@marionette/core/puppet/probe'
import type { Editor } from './editor'
import { startSession, type Session } from './session'
import { targetPlace } from '@marionette/core/puppet/frame'
import { pictureBy } from '@marionette/core/artwork/art'

let session: Session
let page: Page
let editor: Editor

beforeAll(async () => {
  session = await startSession()
  ;({ page, editor } = session)
})
afterAll(() => session?.stop())

const named = (puppet: Puppet, name: string): Part => Object.values(puppet.parts).find((p) => p.name === name && p.id !== puppet.root)!
const boneNamed = (puppet: Puppet, name: string) => Object.values(puppet.bones).find((b) => b.name === name)!
const far = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y)

async function choose(name: string): Promise<void> {
  await (await editor.row(name)).click()
  await page.waitForSelector(`[role=treeitem][aria-label="${name}"][aria-selected=true]`)
}

/** What was done is undone and done again, and the document follows. */
async function undoneAndRedone(before: Puppet): Promise<void> {
  const after = await editor.document()
  await editor.key('Control', 'z')
  await page.waitForSelector('button[aria-label=Redo]:not([disabled])')
  expect(await editor.document()).toEqual(before)
  await editor.key('Control', 'Shift', 'z')
  await page.waitForSelector('button[aria-label=Redo][disabled]')
  expect(await editor.document()).toEqual(after)
}

/** Clicks a button of the details, scrolled into sight. */
async function press(name: string): Promise<void> {
  const button = (await page.waitForSelector(`aside[aria-label=Details] button::-p-text(${name})`))!
  await button.evaluate((e) => e.scrollIntoView({ block: 'center' }))
  await button.click()
}

describe('reaching with a target', () => {
  test('a crab’s feet go where their targets are dragged, its knees outside', async () => {
    await editor.open('clatter-puppet-1', 'shape')
    const before = await editor.document()
    const target = Object.values(before.targets).find((t) => t.name === 'Leg front left foot')!
    const to = { x: target.at.x + 50, y: target.at.y - 90 }
    await editor.drag(target.at, to)
    const puppet = await editor.document()
    const frame = posePuppet(puppet)
    const spot = targetPlace(frame, target.id)
    expect(far(spot, to)).toBeLessThan(1)
    const [thigh, shin] = ['Leg front left', 'Leg front left shin'].map((n) => frame.rig.bones.index.get(boneNamed(puppet, n).id)!)
    expect(far(bonePoint(frame, shin!, 1), spot)).toBeLessThan(0.1)
    // The knee is farther out and higher than the way from hip to foot.
    const [hip, knee] = [bonePoint(frame, thigh!, 0), bonePoint(frame, thigh!, 1)]
    expect((knee.x - hip.x) * (spot.y - hip.y) - (knee.y - hip.y) * (spot.x - hip.x)).toBeGreaterThan(0)
    await undoneAndRedone(before)
  })

  test('a leg that is pulled by its drawing takes its target along', async () => {
    const before = await editor.document()
    const shin = boneNamed(before, 'Leg middle right shin')
    const from = { x: (shin.start.x + shin.end.x) / 2, y: (shin.start.y + shin.end.y) / 2 }
    await editor.drag(from, { x: from.x - 40, y: from.y - 50 })
    const puppet = await editor.document()
    const target = Object.values(puppet.targets).find((t) => t.name === 'Leg middle right foot')!
    expect(far(targetPlace(posePuppet(puppet), target.id), { x: target.at.x - 40, y: target.at.y - 50 })).toBeLessThan(1)
    await undoneAndRedone(before)
  })

  test('a limb gets a target with one click on its last bone', async () => {
    await editor.open('marlo-puppet-1', 'bones')
    const before = await editor.document()
    await editor.tool('Target')
    const hand = boneNamed(before, 'Hand left')
    await editor.click({ x: (hand.start.x + hand.end.x) / 2, y: (hand.start.y + hand.end.y) / 2 })
    await page.waitForSelector('section[aria-label="Hand left reaches"]')
    const made = (await editor.document()).constraints[0]!
    expect(made).toMatchObject({ kind: 'reach', level: hand.id })
    await undoneAndRedone(before)
  })

  test('what it does is set in the details: stretch, and the side to which it bends', async () => {
    await editor.type('Stretch', '150')
    await press('↺')
    expect((await editor.document()).constraints[0]).toMatchObject({ stretch: 1.5, side: 1 })
  })
})

describe('bones', () => {
  test('a chain is laid along the middle of a part', async () => {
    await page.click('aside[aria-label=Roster] [role=tab]::-p-text(Parts)')
    await choose('Strap')
    const before = await editor.document()
    await press('None')
    await editor.saved()
    await editor.type('Bones', '3')
    await press('Chain through it')
    await page.waitForFunction(
      () =>
        document.body.textContent!.includes('and 2 more bones') ||
        document.querySelectorAll('[role=treeitem][aria-selected=true]').length === 3,
    )
    const puppet = await editor.document()
    const chain = [1, 2, 3].map((k) => boneNamed(puppet, `Strap ${k}`))
    expect(chain.map((b) => b.parent).slice(1)).toEqual(chain.map((b) => b.id).slice(0, 2))
    expect(Object.keys(before.bones)).toHaveLength(Object.keys(puppet.bones).length - 3)
  })
})

describe('painting weights', () => {
  test('a stroke gives what it passes over to the selected bone, and shows it in the pose', async () => {
    await editor.open('marlo-puppet-1', 'bones')
    const before = await editor.document()
    const tip = boneNamed(before, 'Scarf tip')
    await choose('Scarf tip')
    await editor.tool('Weigh')
    await page.waitForSelector('[aria-label="Brush for weights"]')
    const tail = boneNamed(before, 'Scarf tail')
    const at = (share: number): Vec => ({
      x: tail.start.x + share * (tail.end.x - tail.start.x),
      y: tail.start.y + share * (tail.end.y - tail.start.y),
    })
    await editor.drag(at(0.35), at(0.7))
    const puppet = await editor.document()
    const sum = (p: Puppet): number => {
      const bind = named(p, 'Scarf tail').bind
      if (bind?.kind !== 'blended') throw new Error('The scarf is not blended.')
      const k = bind.bones.indexOf(tip.id)
      return bind.field.weights.reduce((s, w, i) => s + (bind.field.bones[i] === k ? w : 0), 0)
    }
    expect(sum(puppet)).toBeGreaterThan(sum(before) + 3)
    expect((await editor.history()).at(-1)).toBe('Paint weights of Scarf tip')
    await undoneAndRedone(before)
  })

  test('points in a lasso are given to a bone, and stand in a table', async () => {
    await editor.open('marlo-puppet-1', 'bones')
    const before = await editor.document()
    const { start, end } = boneNamed(before, 'Scarf tip')
    await choose('Scarf tip')
    await editor.tool('Weigh')
    await (await page.waitForSelector('[aria-label="What a drag does"] button::-p-text(Points)'))!.click()
    const corners = [start, { x: start.x - 60, y: end.y }, { x: end.x, y: end.y + 60 }, { x: end.x + 60, y: end.y }, start]
    const spots = await Promise.all(corners.map((c) => editor.at(c)))
    await page.mouse.move(spots[0]!.x, spots[0]!.y)
    await page.mouse.down()
    for (const { x, y } of spots.slice(1)) await page.mouse.move(x, y, { steps: 8 })
    await page.mouse.up()
    await (await page.waitForSelector('[role=group] button::-p-text(Give to Scarf tip)'))!.click()
    await page.waitForFunction(() => document.querySelector<HTMLInputElement>('input[aria-label="Scarf tip, all points"]')?.value === '100')
    expect((await editor.history()).at(-1)).toMatch(/^Weigh \d+ points/)
    await undoneAndRedone(before)
  })

  test('weights are smoothed, shared along a border and weighed by reach from the details', async () => {
    await editor.open('marlo-puppet-1', 'shape')
    await choose('Jacket')
    const before = await editor.document()
    await press('Smooth weights')
    await expect.poll(async () => (await editor.history()).at(-1)).toBe('Smooth weights of Jacket')
    expect(named(await editor.document(), 'Jacket').bind).not.toEqual(named(before, 'Jacket').bind)
    await undoneAndRedone(before)
    await editor.choose('Part to share the border with', 'Scarf tail')
    await expect.poll(async () => (await editor.history()).at(-1)).toBe('Share the border with Scarf tail')
    await press('Weigh by reach')
    await expect.poll(async () => (await editor.history()).at(-1)).toBe('Weigh Jacket by reach')
  })
})

describe('deformers', () => {
  test('a cage with a preset squashes, and its point is dragged by hand', async () => {
    await editor.open('marlo-puppet-1', 'shape')
    await choose('Satchel')
    const before = await editor.document()
    await press('+ Cage')
    await page.waitForSelector('ul[aria-label="Stack of deformers"] li')
    await undoneAndRedone(before)
    await editor.choose('Form of the cage', 'Swell')
    const puppet = await editor.document()
    const [cage] = named(puppet, 'Satchel').deformers
    expect(cage).toMatchObject({ kind: 'cage', columns: 4, rows: 4 })
    // The form grows what lies between the middle and the rim.
    const [left, top] = [cage!.kind === 'cage' ? cage!.box.x : 0, cage!.kind === 'cage' ? cage!.box.y : 0]
    const [wide, high] = [cage!.kind === 'cage' ? cage!.box.width : 0, cage!.kind === 'cage' ? cage!.box.height : 0]
    const spot = { x: left + 0.75 * wide, y: top + 0.5 * high }
    /** Where a spot of the satchel's own space is shown, as its bag is. */
    const shown = (p: Puppet, { x, y }: Vec): Vec => {
      const [satchel, bag] = [named(p, 'Satchel').id, named(p, 'Bag').id]
      return posedMap(posePuppet(p), bag).toCanvas(apply(invert(restMatrix(p, bag))!, apply(restMatrix(p, satchel), { x, y })))
    }
    expect(shown(puppet, spot).x).toBeGreaterThan(shown(before, spot).x + 0.05 * wide)
    const middle = { x: left + 0.5 * wide, y: top + 0.5 * high }
    const handle = shown(puppet, middle)
    await editor.drag(handle, { x: handle.x + 6, y: handle.y + 20 })
    const moved = shown(await editor.document(), middle)
    expect(far(moved, { x: handle.x + 6, y: handle.y + 20 })).toBeLessThan(1)
    await undoneAndRedone(puppet)
  })

  test('pins are clicked into a picture and dragged: the wing bends, and the rest of it follows', async () => {
    await editor.open('quill-puppet-1', 'shape')
    await choose('Tail')
    const before = await editor.document()
    await press('+ Pins')
    await page.waitForSelector('[role=toolbar] [aria-label=Deform][aria-pressed=true]')
    const bone = boneNamed(before, 'Tail')
    const at = (share: number): Vec => ({
      x: bone.start.x + share * (bone.end.x - bone.start.x),
      y: bone.start.y + share * (bone.end.y - bone.start.y),
    })
    for (const share of [0.3, 0.85]) await editor.click(at(share))
    await page.waitForSelector('h4::-p-text(pin 2)')
    const pinned = await editor.document()
    const [pins] = named(pinned, 'Tail').deformers
    expect(pins).toMatchObject({ kind: 'pins' })
    expect(pins!.kind === 'pins' && pins!.pins).toHaveLength(2)
    await editor.drag(at(0.85), { x: at(0.85).x + 10, y: at(0.85).y - 90 })
    const posed = await editor.document()
    const map = posedMap(posePuppet(posed), named(posed, 'Tail').id)
    expect(
      far(map.toCanvas(pins!.kind === 'pins' ? pins!.pins[1]!.at : { x: 0, y: 0 }), { x: at(0.85).x + 10, y: at(0.85).y - 90 }),
    ).toBeLessThan(2)
    await undoneAndRedone(pinned)
  })

  test('a point of a picture’s mesh is dragged, and stiffness is painted for its pins', async () => {
    await editor.open('quill-puppet-1', 'shape')
    await choose('Wing near')
    const before = await editor.document()
    const meshOf = (p: Puppet): number[] => {
      const art = Object.values(named(p, 'Wing near').art)[0]!
      return pictureBy(p, art)!.mesh.vertices
    }
    await editor.tool('Points')
    const map = posedMap(posePuppet(before), named(before, 'Wing near').id)
    const at = map.toCanvas({ x: meshOf(before)[0]!, y: meshOf(before)[1]! })
    await editor.drag(at, { x: at.x - 9, y: at.y - 6 })
    expect(meshOf(await editor.document()).slice(0, 2)).not.toEqual(meshOf(before).slice(0, 2))
    await undoneAndRedone(before)
    const moved = await editor.document()
    await editor.tool('Deform')
    await (await page.waitForSelector('[aria-label="What a drag does"] button::-p-text(Stiffness)'))!.click()
    const { start, end } = boneNamed(moved, 'Wing near')
    await editor.drag(start, end)
    const [pins] = named(await editor.document(), 'Wing near').deformers
    expect(pins!.kind === 'pins' && Math.max(...pins!.stiffness)).toBeGreaterThan(1)
    await undoneAndRedone(moved)
  })

  test('everything is found again after a reload', async () => {
    const before = await editor.document()
    await page.reload()
    await editor.drawn()
    expect(await editor.document()).toEqual(before)
    expect(session.errors).toEqual([])
  })
})
