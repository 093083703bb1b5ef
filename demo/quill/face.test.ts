import type { CanvasKit } from 'canvaskit-wasm'
import { beforeAll, describe, expect, test } from 'vitest'
import { boardOf } from '@marionette/core/face/expressions'
import { playedValues } from '@marionette/core/playing/playing'
import { trackOf } from '@marionette/core/speech/track'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { checkExpressions } from '@marionette/authoring/expressions'
import { loadCanvasKit } from '@marionette/render/node'
import { renderPixels } from '@marionette/render/pixels'
import { DEMOS } from '../demos'

const { puppet, assets } = DEMOS['quill']!()
const rig = compile(puppet)
const named = (name: string): string => Object.values(puppet.parts).find((p) => p.name === name && p.id !== puppet.root)!.id
const beak = named('Lower beak')
const number = (name: string): number => puppet.parts[named(name)]!.alternate

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

const region = { minX: 20, maxX: 340, minY: 180, maxY: 300 }
const picture = (values: Record<string, number>, scale = 1): Uint8Array =>
  renderPixels(CK, poseRig(rig, values), { region, scale, assets: (hash) => assets.get(hash) }).data as Uint8Array
/** Mean difference of two pictures, in colour values. */
const apart = (a: Uint8Array, b: Uint8Array): number => a.reduce((sum, v, k) => sum + Math.abs(v - b[k]!), 0) / a.length

const morphing = (way: number): Record<string, number> => ({
  [`part/${beak}/alternate`]: number('Open aa'),
  [`part/${beak}/before`]: number('Closed mbp'),
  [`part/${beak}/way`]: way,
})

describe('Quill’s beak', () => {
  test('morphs: at both ends it is as painted, and in between nothing jumps', () => {
    const whole = apart(picture(morphing(0)), picture(morphing(1)))
    // A mesh is drawn with another edge than a picture as it is; they are compared in the pixels that were painted.
    const asPainted = (way: number, values: Record<string, number>): number => apart(picture(morphing(way), 2), picture(values, 2))
    expect(asPainted(0, {})).toBeLessThan(0.02 * whole)
    expect(asPainted(1 - 1e-9, { [`part/${beak}/alternate`]: number('Open aa') })).toBeLessThan(0.02 * whole)
    let last = picture(morphing(0))
    for (let k = 1; k <= 20; k++) {
      const now = picture(morphing(k / 20))
      // The way is eased: the fastest step is twice as long as the mean.
      expect(apart(now, last)).toBeLessThan(0.4 * whole)
      last = now
    }
  })

  test('is warped, not faded: half open there is horn where neither of both has it', () => {
    const lowest = (data: Uint8Array): number => {
      const width = region.maxX - region.minX
      let low = 0
      // A hand's breadth behind the tip.
      for (let y = 0; y < region.maxY - region.minY; y++) if (data[4 * (y * width + 90) + 3]! > 128) low = y
      return low
    }
    const [closed, half, open] = [0, 0.5, 1].map((way) => lowest(picture(morphing(way))))
    expect(half).toBeGreaterThan(closed! + 10)
    expect(half).toBeLessThan(open! - 10)
  })

  test('closes for m, b and p, and opens for a', () => {
    const track = trackOf(['AA', 'M', 'AA'].map((name) => ({ name, seconds: 0.25, word: 0 })))
    const shown = (time: number): number => playedValues(puppet, { time, speech: track, mood: '' })[`part/${beak}/alternate`]!
    expect([0.05, 0.32, 0.6].map(shown)).toEqual([number('Open aa'), number('Closed mbp'), number('Open aa')])
  })
})

describe('Quill’s eye', () => {
  test('has painted lids at three heights, of which one shows', () => {
    const lids = `control/${puppet.controls.find((c) => c.name === 'Lids')!.id}/value`
    const shown = (at: number): string[] => {
      const frame = poseRig(rig, { [lids]: at })
      return puppet.parts[named('Eyelid')]!.children.filter((id) => frame.shown[rig.parts.index.get(id)!] === 1).map(
        (id) => puppet.parts[id]!.name,
      )
    }
    expect([0, 0.5, 1].map(shown)).toEqual([['Open'], ['Half'], ['Closed']])
  })

  test('and crest make moods that all do something', () => {
    const items = boardOf(puppet).moods.map(({ id, values }) => ({ id, values, isStill: false }))
    expect(items.length).toBe(6)
    const found = checkExpressions(CK, puppet, items, { assets: (hash) => assets.get(hash) })
    expect(found.filter((f) => f.findings.some((x) => x.kind !== 'collides'))).toEqual([])
  })
})
