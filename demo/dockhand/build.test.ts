import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '@marionette/core/document/invariants'
import { canonicalJson } from '@marionette/core/document/json'
import { assetsOf, drawnParts } from '@marionette/core/document/tree'
import { inView } from '@marionette/core/document/views'
import { inspectRig } from '@marionette/core/inspect/report'
import { DEMOS } from '../demos'
import { buildDockhand } from './build'

const { puppet, assets } = DEMOS['dockhand']!()

describe('the Dockhand', () => {
  test('is what cutting its sheet gives', () => {
    const sheet = new Uint8Array(readFileSync(new URL('./sheet.png', import.meta.url)))
    const built = buildDockhand(sheet)
    expect(canonicalJson(built.puppet)).toBe(canonicalJson(puppet))
    expect([...assetsOf(puppet)].filter((hash) => !assets.has(hash))).toEqual([])
  })

  test('has fourteen parts in each of three views, sound and without findings', () => {
    expect(puppet.views.map((v) => v.name)).toEqual(['Front', 'Three-quarter', 'Side'])
    for (const { id } of puppet.views) {
      const seen = inView(puppet, id)
      expect(drawnParts(seen, seen.root).filter((p) => p.visible && p.art[id] !== undefined)).toHaveLength(14)
      expect(inspectRig(seen)).toEqual([])
    }
    expect(brokenInvariants(puppet)).toEqual([])
  })

  test('got its left limbs as twins', () => {
    const twins = Object.values(puppet.parts).filter((p) => p.twin?.mirrored)
    expect(twins.map((p) => p.name).sort()).toEqual(['Boot left', 'Forearm left', 'Hand left', 'Shin left', 'Thigh left', 'Upper arm left'])
    for (const p of twins) expect(p.art['front']).toBe(puppet.parts[p.twin!.of]!.art['front'])
  })
})
