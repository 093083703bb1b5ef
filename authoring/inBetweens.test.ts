import type { CanvasKit } from 'canvaskit-wasm'
import { beforeAll, describe, expect, test } from 'vitest'
import { DEMOS } from '@marionette/demo/demos'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import { newPuppet } from '@marionette/core/puppet/new'
import type { Puppet } from '@marionette/core/puppet/schema'
import { applyEdits, run, undoChange } from '@marionette/core/puppet/edit'
import { alternatesOf, makeSwap } from '@marionette/core/alternates/commands'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { frameBounds } from '@marionette/core/puppet/probe'
import { box, drawingPart } from '@marionette/core/test/puppets'
import { inBetweens } from './inBetweens'
import { loadCanvasKit } from '@marionette/render/node'
import { renderPixels } from '@marionette/render/pixels'
import { newPart } from '@marionette/core/parts/new'
import { partChannel } from '@marionette/core/parts/channels'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

/** A mouth of two alternates: lips with teeth that only the open one has, in a group that was moved and turned. */
function mouth(): Puppet {
  const drawings = [box('shut', 20, 50, 60, 10), box('wide', 10, 30, 80, 50), box('teeth', 20, 32, 60, 8)]
  const at = { ...newPart('any', 'Any').home, x: 15, y: -6, angle: 20 }
  const parts = [
    { ...newPart('mouth', 'Mouth'), home: at, pivot: { x: 50, y: 50 } },
    { ...newPart('closed', 'Closed'), parent: 'mouth' },
    { ...drawingPart('lips-1', 'Lips', drawings[0]!), parent: 'closed' },
    { ...newPart('open', 'Open'), parent: 'mouth' },
    { ...drawingPart('lips-2', 'Lips', drawings[1]!), parent: 'open' },
    { ...drawingPart('teeth-2', 'Teeth', drawings[2]!), parent: 'open' },
  ]
  const puppet = run(newPuppet('p', 'P', { width: 120, height: 120 }), addArtwork, { parent: 'p-root', parts, drawings })
  return run(puppet, makeSwap, { group: 'mouth' })
}

describe('in-betweens of drawings', () => {
  const plan = { swap: 'mouth', from: 1, to: 2, count: 3 }

  test('look as the morph at their place does, and turn in a flipbook; all is one step', () => {
    const before = mouth()
    const { edits, assets } = inBetweens(CK, before, plan, 'b', () => undefined)
    const { puppet, change } = applyEdits(before, edits)
    expect(brokenInvariants(puppet)).toEqual([])
    expect(alternatesOf(puppet, 'mouth').map((a) => a.alternate)).toEqual([1, 2, 3, 4, 5])
    expect(puppet.flipbooks[0]).toMatchObject({ name: 'Closed to Open', pictures: [1, 3, 4, 5, 2] })
    expect(assets.size).toBe(0)
    for (const [k, number] of [3, 4, 5].entries()) {
      const own = frameBounds(poseRig(compile(puppet), { 'part/mouth/alternate': number }))!
      // The way is eased when it plays.
      const flat = {
        ...before,
        parts: {
          ...before.parts,
          mouth: {
            ...before.parts['mouth']!,
            swap: { ...before.parts['mouth']!.swap!, morph: { how: 'morph', seconds: 0.1, eases: false } as const },
          },
        },
      }
      const pose = { 'part/mouth/alternate': 2, 'part/mouth/before': 1, 'part/mouth/way': (k + 1) / 4 }
      const region = { minX: 0, minY: 0, maxX: 120, maxY: 120 }
      const [a, b] = [
        renderPixels(CK, poseRig(compile(puppet), { 'part/mouth/alternate': number }), { region, scale: 1 }),
        renderPixels(CK, poseRig(compile(flat), pose), { region, scale: 1 }),
      ]
      let off = 0
      for (let i = 0; i < a.data.length; i++) if (Math.abs(a.data[i]! - b.data[i]!) > 40) off++
      expect(off).toBeLessThan(20)
      expect(own.maxY - own.minY).toBeGreaterThan(10)
    }
    expect(undoChange(puppet, change)).toEqual(before)
  })

  test('of nothing are refused in a sentence', () => {
    expect(() => inBetweens(CK, mouth(), { ...plan, to: 1 }, 'b', () => undefined)).toThrow('Choose two different alternates')
    expect(() => inBetweens(CK, mouth(), { ...plan, from: 77 }, 'b', () => undefined)).toThrow('Neither of these')
  })
})

test('in-betweens of pictures are warped pictures with meshes of their own', () => {
  const { puppet, assets } = DEMOS['quill']!()
  const beak = Object.values(puppet.parts).find((p) => p.name === 'Lower beak')!
  const numbers = (name: string): number => alternatesOf(puppet, beak.id).find((a) => a.name === name)!.alternate
  const plan = { swap: beak.id, from: numbers('Closed mbp'), to: numbers('Open aa'), count: 1 }
  const made = inBetweens(CK, puppet, plan, 'b', (hash) => assets.get(hash))
  expect(made.assets.size).toBe(2)
  const after = applyEdits(puppet, made.edits).puppet
  expect(brokenInvariants(after)).toEqual([])
  const lowest = (number: number): number => {
    const frame = poseRig(compile(after), { [partChannel(beak.id, 'alternate')]: number })
    const inside = new Set(alternatesOf(after, beak.id).flatMap((a) => [a.id, ...after.parts[a.id]!.children]))
    return frameBounds(
      frame,
      new Set(
        [...inside].filter(
          (id) =>
            frame.shown[frame.rig.parts.index.get(after.parts[id]!.parent!)!] === 1 && frame.shown[frame.rig.parts.index.get(id)!] === 1,
        ),
      ),
    )!.maxY
  }
  const between = Math.max(...alternatesOf(after, beak.id).map((a) => a.alternate))
  expect(lowest(between)).toBeGreaterThan(lowest(plan.from) + 5)
  expect(lowest(between)).toBeLessThan(lowest(plan.to) - 5)
})
