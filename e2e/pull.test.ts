/** Posing without set-up, bones along a drawn curve, and what is found, through the real interface. */
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Puppet, Vec } from '@marionette/core/puppet/schema'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { bonePoint } from '@marionette/core/puppet/probe'
import type { Editor } from './editor'
import { startSession, type Session } from './session'

let session: Session
let page: Page
let editor: Editor

beforeAll(async () => {
  session = await startSession()
  ;({ page, editor } = session)
})
afterAll(() => session?.stop())

const boneNamed = (puppet: Puppet, name: string) => Object.values(puppet.bones).find((b) => b.name === name)!
const middle = ({ start, end }: { start: Vec; end: Vec }): Vec => ({ x: (start.x + end.x) / 2, y: (start.y + end.y) / 2 })

describe('holds', () => {
  test('hips are pulled down between held feet: knees bend, feet stay', async () => {
    await editor.open('marlo-puppet-1', 'shape')
    const before = await editor.document()
    await page.keyboard.down('Alt')
    for (const name of ['Foot left', 'Foot right']) await editor.click(middle(boneNamed(before, name)))
    await page.keyboard.up('Alt')
    const hips = boneNamed(before, 'Hips').start
    await editor.drag(hips, { x: hips.x, y: hips.y + 40 })
    const puppet = await editor.document()
    const frame = posePuppet(puppet)
    const at = (name: string, end: 0 | 1): Vec => bonePoint(frame, frame.rig.bones.index.get(boneNamed(puppet, name).id)!, end)
    expect(at('Hips', 0).y).toBeCloseTo(hips.y + 40, 0)
    for (const name of ['Foot left', 'Foot right']) {
      const was = boneNamed(before, name)
      expect(Math.hypot(at(name, 0).x - was.start.x, at(name, 0).y - was.start.y)).toBeLessThan(3)
    }
    expect(puppet.pose[`bone/${boneNamed(puppet, 'Shin left').id}/angle`]).toBeLessThan(-5)
    await editor.key('Control', 'z')
    await expect.poll(async () => (await editor.document()).pose).toEqual(before.pose)
  })

  test('a key lets all holds go, and limbs answer alone again', async () => {
    await editor.key('x')
    const before = await editor.document()
    const hips = boneNamed(before, 'Hips').start
    await editor.drag(hips, { x: hips.x, y: hips.y + 40 })
    const { pose } = await editor.document()
    expect(Object.keys(pose)).toEqual([`bone/${boneNamed(before, 'Hips').id}/y`])
    await editor.key('Control', 'z')
  })
})

describe('bones along a curve', () => {
  test('a drag lays a chain of as many bones as were asked for', async () => {
    await editor.open('marlo-puppet-1', 'bones')
    const before = await editor.document()
    await editor.tool('Draw bones')
    await editor.button('Chain along a curve')
    await editor.drag({ x: 520, y: 700 }, { x: 600, y: 700 })
    const puppet = await editor.document()
    const chain = [1, 2, 3, 4].map((k) => boneNamed(puppet, `Chain ${k}`))
    expect(chain.map((b) => b.parent).slice(1)).toEqual(chain.map((b) => b.id).slice(0, 3))
    for (const b of chain) expect(Math.hypot(b.end.x - b.start.x, b.end.y - b.start.y)).toBeCloseTo(20, 0)
    await editor.key('Control', 'z')
    await expect.poll(async () => Object.keys((await editor.document()).bones).length).toBe(Object.keys(before.bones).length)
  })

  test('bones are found by their names', async () => {
    await page.type('input[aria-label="Find bones"]', 'shin')
    await expect.poll(() => editor.rows()).toEqual(['Shin left', 'Shin right'])
    await page.click('[aria-label="Show all bones"]')
    await expect.poll(async () => (await editor.rows()).length).toBeGreaterThan(10)
    expect(session.errors).toEqual([])
  })
})
