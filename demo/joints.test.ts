import { beforeAll, describe, expect, test } from 'vitest'
import type { CanvasKit } from 'canvaskit-wasm'
import { loadCanvasKit } from '@marionette/render/node'
import { sweepJoint } from '@marionette/render/sweep'
import { DEMOS } from './demos'

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

/** Degrees between two looks: what opens, opens over more than that. */
const STEP = 15

describe.each(Object.keys(DEMOS))('the joints of %s', (name) => {
  test('show no hole within their limits', () => {
    const { puppet, assets } = DEMOS[name]!()
    const joints = Object.values(puppet.joints)
    expect(joints.length).toBeGreaterThan(8)
    const found = joints.map((joint) => {
      const { under, over, holes } = sweepJoint(CK, puppet, joint, { step: STEP, assets: (hash) => assets.get(hash) })
      return { under, over, holes }
    })
    expect(found.filter((j) => j.holes > 0)).toEqual([])
  })
})
