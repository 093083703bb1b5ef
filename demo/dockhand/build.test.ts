import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import { canonicalJson } from '@marionette/core/kernel/json'
import { assetsOf, drawnParts } from '@marionette/core/parts/tree'
import { inView } from '@marionette/core/views/views'
import { playedValues } from '@marionette/core/playing/playing'
import { trackOf } from '@marionette/core/speech/track'
import { inspectRig } from '@marionette/core/reports/report'
import { DEMOS } from '../demos'
import { buildDockhand } from './build'
import { slotOfAddress } from '@marionette/core/kernel/slots'
import { evaluate, makeFrame } from '@marionette/core/puppet/evaluate'
import { compile } from '@marionette/core/puppet/compile'

const { puppet, assets } = DEMOS['dockhand']!()

describe('the Dockhand', () => {
  test('is what cutting its sheet gives', () => {
    const sheet = new Uint8Array(readFileSync(new URL('./sheet.png', import.meta.url)))
    const built = buildDockhand(sheet)
    expect(canonicalJson(built.puppet)).toBe(canonicalJson(puppet))
    expect([...assetsOf(puppet)].filter((hash) => !assets.has(hash))).toEqual([])
  })

  test('has fourteen parts in each of three views, a simple face in front, sound and without findings', () => {
    expect(puppet.views.map((v) => v.name)).toEqual(['Front', 'Three-quarter', 'Side'])
    for (const { id } of puppet.views) {
      const seen = inView(puppet, id)
      expect(drawnParts(seen, seen.root).filter((p) => p.visible && p.art[id] !== undefined)).toHaveLength(id === 'front' ? 17 : 14)
      expect(inspectRig(seen)).toEqual([])
    }
    expect(brokenInvariants(puppet)).toEqual([])
  })

  test('got its left limbs as twins', () => {
    const twins = Object.values(puppet.parts).filter((p) => p.twin?.mirrored)
    expect(twins.map((p) => p.name).sort()).toEqual(['Boot left', 'Forearm left', 'Hand left', 'Shin left', 'Thigh left', 'Upper arm left'])
    for (const p of twins) expect(p.art['front']).toBe(puppet.parts[p.twin!.of]!.art['front'])
  })

  test('speaks with three mouths, cut from one to the next, and blinks', () => {
    const speech = trackOf([
      { name: 'M', seconds: 0.2, word: 0 },
      { name: 'AA', seconds: 0.2, word: 0 },
      { name: '', seconds: 0.2, word: -1 },
    ])
    const mouth = (time: number): number => playedValues(puppet, { time, speech, mood: '' })['part/face-mouth/alternate']!
    const named = (name: string): number => Object.values(puppet.parts).find((p) => p.name === name)!.alternate
    expect([0.05, 0.3, 0.5].map(mouth)).toEqual(['Closed mbp', 'Open aa', 'Smile rest'].map(named))
    const rig = compile(puppet)
    const [frame, slot] = [makeFrame(rig), slotOfAddress(rig.slots, 'part/face-lids/alternate')]
    const lids = Array.from({ length: 800 }, (_, k) => evaluate(rig, rig.restPose, frame, { time: k / 20, simulation: null }).values[slot])
    expect(new Set(lids)).toEqual(new Set([rig.restPose[slot], named('Lids closed')]))
  })
})
