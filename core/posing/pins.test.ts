import { describe, expect, test } from 'vitest'
import { newPuppet } from '../puppet/new'
import type { Puppet } from '../puppet/schema'
import type { Vec } from '../kernel/numbers'
import { often } from '../test/often'
import { addBone, setLimits } from '../bones/commands'
import { run } from '../puppet/edit'
import { seededRandom } from '../maths/solve/random'
import { compile } from '../puppet/compile'
import { evaluate, poseRig, makeFrame, writePose } from '../puppet/evaluate'
import { posePinAt, pinPlace, PinnedPose, type PosePin } from './pins'
import type { Limits } from '../bones/records'
import type { Frame } from '../puppet/frame'

/** Hips with two legs of three bones, a spine with a head and an arm of two. Knees bend forward only. */
function walker(): Puppet {
  let puppet = newPuppet('walker', 'Walker', { width: 600, height: 600 })
  const bone = (id: string, parent: string | null, start: [number, number], end: [number, number], limits?: Limits): void => {
    const at = ([x, y]: [number, number]): Vec => ({ x, y })
    puppet = run(puppet, addBone, { id, name: id, parent, start: at(start), end: at(end) })
    if (limits) puppet = run(puppet, setLimits, { bone: id, limits })
  }
  bone('hips', null, [300, 300], [300, 260])
  bone('spine', 'hips', [300, 260], [300, 160], { min: -30, max: 30 })
  bone('head', 'spine', [300, 160], [300, 90])
  bone('arm', 'spine', [300, 160], [360, 200])
  bone('fore', 'arm', [360, 200], [420, 160], { min: 0, max: 140 })
  for (const [side, x] of [
    ['l', 330],
    ['r', 270],
  ] as const) {
    bone(`thigh-${side}`, 'hips', [x, 300], [x, 400], { min: -120, max: 40 })
    bone(`shin-${side}`, `thigh-${side}`, [x, 400], [x, 500], { min: 0, max: 150 })
    bone(`foot-${side}`, `shin-${side}`, [x, 500], [x + 30, 510])
  }
  return puppet
}

/** How often the hips are pulled to a spot of chance. */
const PULLS = often(200, 2000)

const far = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y)

function shown(): { frame: Frame; pose: Float64Array; pins: PosePin[] } {
  const frame = poseRig(compile(walker()), {})
  const pose = writePose(frame.rig, {}, new Float64Array(frame.rig.restPose.length))
  const foot = (side: string): PosePin =>
    posePinAt(frame, frame.rig.bones.index.get(`foot-${side}`)!, { x: side === 'l' ? 340 : 280, y: 505 })
  return { frame, pose, pins: [foot('l'), foot('r')] }
}

const posed = (frame: Frame, values: Record<string, number>): Frame =>
  evaluate(frame.rig, writePose(frame.rig, values, new Float64Array(frame.rig.restPose.length)), makeFrame(frame.rig))

describe('posing with pins', () => {
  test('hips go down between pinned feet, and the stretched knees bend the way that they can', () => {
    const { frame, pose, pins } = shown()
    const hips = frame.rig.bones.index.get('hips')!
    const held = new PinnedPose(frame, pose, hips, { x: 300, y: 300 }, pins)
    const values = held.dragTo({ x: 300, y: 340 })
    const now = posed(frame, values)
    for (const pin of pins) expect(far(pinPlace(now, pin)!, pinPlace(frame, pin)!)).toBeLessThan(0.1)
    expect(far(pinPlace(now, posePinAt(frame, hips, { x: 300, y: 300 }))!, { x: 300, y: 340 })).toBeLessThan(0.5)
    expect(values['bone/shin-l/angle']).toBeGreaterThan(10)
    expect(values['bone/shin-r/angle']).toBeGreaterThan(10)
  })

  test('a pulled hand takes its own arm first, then the body leans, and the feet stay', () => {
    const { frame, pose, pins } = shown()
    const fore = frame.rig.bones.index.get('fore')!
    const near = new PinnedPose(frame, pose, fore, { x: 420, y: 160 }, pins).dragTo({ x: 410, y: 150 })
    const spine = (values: Record<string, number>): number => Math.abs(values['bone/spine/angle']!)
    expect(spine(near)).toBeLessThan(2)
    const held = new PinnedPose(frame, pose, fore, { x: 420, y: 160 }, pins)
    let values: Record<string, number> = {}
    for (let k = 1; k <= 10; k++) values = held.dragTo({ x: 420 + 6 * k, y: 160 })
    expect(spine(values)).toBeGreaterThan(5)
    const now = posed(frame, values)
    for (const pin of pins) expect(far(pinPlace(now, pin)!, pinPlace(frame, pin)!)).toBeLessThan(0.3)
  })

  test('in many pulls pins hardly give, limits hold, and what can be reached is', () => {
    const { frame, pose, pins } = shown()
    const random = seededRandom(7)
    const { min, max, ids } = frame.rig.bones
    const hips = frame.rig.bones.index.get('hips')!
    let reached = 0
    for (let i = 0; i < PULLS; i++) {
      const held = new PinnedPose(frame, pose, hips, { x: 300, y: 300 }, pins)
      const to = { x: 300 + 60 * (random() - 0.5), y: 300 + 90 * random() }
      let values: Record<string, number> = {}
      for (let k = 1; k <= 4; k++) values = held.dragTo({ x: 300 + ((to.x - 300) * k) / 4, y: 300 + ((to.y - 300) * k) / 4 })
      ids.forEach((id, b) => {
        const angle = values[`bone/${id}/angle`] ?? 0
        expect(Number.isFinite(angle)).toBe(true)
        expect(angle).toBeGreaterThanOrEqual(min[b]!)
        expect(angle).toBeLessThanOrEqual(max[b]!)
      })
      const now = posed(frame, values)
      for (const pin of pins) expect(far(pinPlace(now, pin)!, pinPlace(frame, pin)!)).toBeLessThan(1)
      if (far(pinPlace(now, posePinAt(frame, hips, { x: 300, y: 300 }))!, to) < 0.5) reached++
    }
    expect(reached).toBeGreaterThan(0.95 * PULLS)
  })

  test('a spot pulled out of reach strains towards the pull without giving way', () => {
    const { frame, pose, pins } = shown()
    const hips = frame.rig.bones.index.get('hips')!
    const held = new PinnedPose(frame, pose, hips, { x: 300, y: 300 }, pins)
    const now = posed(frame, held.dragTo({ x: 300, y: 200 }))
    for (const pin of pins) expect(far(pinPlace(now, pin)!, pinPlace(frame, pin)!)).toBeLessThan(2)
  })
})
