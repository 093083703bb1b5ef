import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import { canonicalJson } from '@marionette/core/kernel/json'
import { drawingOf } from '@marionette/core/parts/tree'
import { inspectRig } from '@marionette/core/reports/report'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { seededRandom } from '@marionette/core/maths/solve/random'
import { importSvg } from '@marionette/formats/svg/import'
import { BUILD, DEMOS, demoSvg } from '../demos'

const marlo = DEMOS['marlo']!().puppet

describe('Marlo', () => {
  test('is drawn without anything that cannot be shown, in at least 25 named parts', () => {
    expect(importSvg(demoSvg(), 'marlo').warnings).toEqual([])
    const drawn = Object.values(marlo.parts).filter((p) => drawingOf(marlo, p))
    expect(new Set(drawn.map((p) => p.name)).size).toBeGreaterThanOrEqual(25)
    for (const name of [
      'Head',
      'Face',
      'Fringe',
      'Cap',
      'Jacket',
      'Upper arm left',
      'Forearm right',
      'Hand left',
      'Leg right',
      'Boot left',
      'Satchel',
      'Scarf',
    ]) {
      expect(Object.values(marlo.parts).filter((p) => p.name === name)).toHaveLength(1)
    }
  })

  test('is sound, has no findings, and is the same each time', () => {
    expect(brokenInvariants(marlo)).toEqual([])
    expect(inspectRig(marlo)).toEqual([])
    expect(canonicalJson(BUILD.marlo().puppet)).toBe(canonicalJson(marlo))
  })

  test('a thousand random poses within limits give finite numbers and leave no joint open', () => {
    const rig = compile(marlo)
    const frame = makeFrame(rig)
    const pose = new Float64Array(rig.restPose.length)
    const random = seededRandom(7)
    const joints = [
      ['Upper arm left', 'Forearm left'],
      ['Forearm right', 'Hand right'],
      ['Thigh left', 'Shin left'],
      ['Shin right', 'Boot right'],
    ].map((names) => names.map((n) => Object.values(marlo.parts).find((p) => p.name === n)!.id))
    const pivotOf = (part: string, seenFrom: string): { x: number; y: number } => {
      // The pivot of the lower piece, as the upper or the lower piece carries it.
      const { start } = marlo.bones[(marlo.parts[part]!.bind as { bone: string }).bone]!
      const b = rig.bones.index.get((marlo.parts[seenFrom]!.bind as { bone: string }).bone)!
      const m = frame.bones.slice(6 * b, 6 * b + 6)
      return { x: m[0]! * start.x + m[2]! * start.y + m[4]!, y: m[1]! * start.x + m[3]! * start.y + m[5]! }
    }
    for (let round = 0; round < 1000; round++) {
      const values = Object.fromEntries(
        Object.values(marlo.bones).map((b) => [
          `bone/${b.id}/angle`,
          (b.limits.min ?? -60) + random() * ((b.limits.max ?? 60) - (b.limits.min ?? -60)),
        ]),
      )
      evaluate(rig, writePose(rig, values, pose), frame)
      expect([frame.parts, ...frame.points].every((list) => list === null || list.every(Number.isFinite))).toBe(true)
      for (const [upper, lower] of joints) {
        const a = pivotOf(lower!, upper!)
        const b = pivotOf(lower!, lower!)
        expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(1e-6)
      }
    }
  })
})
