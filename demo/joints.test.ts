import { beforeAll, describe, expect, test } from 'vitest'
import type { CanvasKit } from 'canvaskit-wasm'
import { inView } from '@marionette/core/views/views'
import { loadCanvasKit } from '@marionette/render/node'
import { sweepJoint } from '@marionette/authoring/sweep'
import { DEMOS } from './demos'

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

/** Degrees between two looks: what opens, opens over more than that. */
const STEP = 30

// Clatter's legs bend, its claws and eyes stand on round ends: it has no joints.
const JOINTED = Object.keys(DEMOS).filter((name) => name !== 'clatter')

describe.each(JOINTED)('the joints of %s', (name) => {
  test('show no hole within their limits, in any view', () => {
    const { puppet, assets } = DEMOS[name]!()
    expect(Object.keys(puppet.joints).length).toBeGreaterThan(8)
    for (const view of puppet.views) {
      const seen = inView(puppet, view.id)
      const found = Object.values(seen.joints).map((joint) => {
        const { under, over, holes } = sweepJoint(CK, seen, joint, { step: STEP, assets: (hash) => assets.get(hash) })
        return { view: view.name, under, over, holes }
      })
      expect(found.filter((j) => j.holes > 0)).toEqual([])
    }
  })
})
