import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import { canonicalJson } from '@marionette/core/kernel/json'
import type { Vec } from '@marionette/core/puppet/schema'
import { inspectRig } from '@marionette/core/reports/report'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, posePuppet, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { bonePoint } from '@marionette/core/puppet/probe'
import { seededRandom } from '@marionette/core/maths/solve/random'
import { BUILD, DEMOS } from '../demos'
import { targetPlace } from '@marionette/core/puppet/frame'

const { puppet } = DEMOS['clatter']!()
const far = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y)
const bones = Object.values(puppet.bones)
const LEGS = ['back', 'middle', 'front'].flatMap((row) => ['left', 'right'].map((side) => `Leg ${row} ${side}`))

describe('Clatter', () => {
  test('is sound, has no findings, and is the same each time', () => {
    expect(brokenInvariants(puppet)).toEqual([])
    expect(inspectRig(puppet)).toEqual([])
    expect(canonicalJson(BUILD.clatter().puppet)).toBe(canonicalJson(puppet))
  })

  test('stands at rest as it was drawn: its feet are on their targets already', () => {
    const frame = posePuppet(puppet, {})
    for (const angle of frame.skeleton.angle) expect(Math.abs(angle)).toBeLessThan(0.01)
  })

  test('keeps six feet on their targets and six knees outside, wherever in reach the targets go', () => {
    const rig = compile(puppet)
    const frame = makeFrame(rig)
    const buffer = new Float64Array(rig.restPose.length)
    const random = seededRandom(11)
    for (let round = 0; round < 400; round++) {
      const pose = Object.fromEntries(
        Object.keys(puppet.targets).flatMap((id) => [
          [`target/${id}/x`, 80 * (random() - 0.5)],
          [`target/${id}/y`, -90 * random()],
        ]),
      )
      evaluate(rig, writePose(rig, { ...pose, 'bone/clatter-rig-bone-1/y': 10 * (random() - 0.5) }, buffer), frame)
      for (const name of LEGS) {
        const at = (bone: string, end: number): Vec => bonePoint(frame, rig.bones.index.get(bones.find((b) => b.name === bone)!.id)!, end)
        const [hip, knee, foot] = [at(name, 0), at(name, 1), at(`${name} shin`, 1)]
        const target = Object.values(puppet.targets).find((t) => t.name === `${name} foot`)!
        const away = far(hip, targetPlace(frame, target.id))
        // Near full extension the reach is soft.
        if (away < 0.9 * (far(hip, knee) + far(knee, foot))) expect(far(foot, targetPlace(frame, target.id))).toBeLessThan(0.1)
        const outwards = name.endsWith('left') ? 1 : -1
        const side = (knee.x - hip.x) * (foot.y - hip.y) - (knee.y - hip.y) * (foot.x - hip.x)
        expect(outwards * side).toBeGreaterThan(0)
      }
      for (const points of frame.points) for (const v of points ?? []) expect(Number.isFinite(v)).toBe(true)
    }
  })
})
