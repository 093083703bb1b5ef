import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '../puppet/invariants'
import type { Puppet } from '../puppet/schema'
import type { Vec } from '../kernel/numbers'
import { deleteBone, hangBone, setLimits } from '../bones/commands'
import { insertBones, setBoneNature } from '../skeleton/lines'
import { addConstraint, addTarget, deleteTarget, hangTarget } from './commands'
import { run } from '../puppet/edit'
import { splitBone } from '../skeleton/commands'
import { seededRandom } from '../maths/solve/random'
import { chainPuppet, reachWith, withConstraint } from '../test/limbs'
import { compile } from '../puppet/compile'
import { leadingTarget } from '../posing/drag'
import { evaluate, posePuppet, makeFrame, writePose } from '../puppet/evaluate'
import { bonePoint } from '../puppet/probe'
import type { Frame } from '../puppet/frame'

const tip = (frame: Frame): Vec => bonePoint(frame, frame.rig.bones.ids.length - 1, 1)
const far = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y)
/** The pose that brings the target, at rest at the end of the chain, to a spot. */
const goalAt = (puppet: Puppet, to: Vec): Record<string, number> => ({
  'target/goal/x': to.x - puppet.targets['goal']!.at.x,
  'target/goal/y': to.y - puppet.targets['goal']!.at.y,
})

describe('reaching for a target', () => {
  test('two bones lie where the law of cosines puts them', () => {
    const puppet = withConstraint(chainPuppet(2), reachWith(['b0', 'b1'], { side: 1 }))
    fc.assert(
      fc.property(fc.double({ min: 1, max: 99, noNaN: true }), fc.double({ min: -3.1, max: 3.1, noNaN: true }), (d, a) => {
        const to = { x: 100 + d * Math.cos(a), y: 100 + d * Math.sin(a) }
        const frame = posePuppet(puppet, goalAt(puppet, to))
        expect(far(tip(frame), to)).toBeLessThan(1e-6)
        // Equal bones: the elbow lies half-way, sqrt(l² - d²/4) beside the line; bent counter-clockwise it is on its right.
        const elbow = bonePoint(frame, 0, 1)
        const off = Math.sqrt(2500 - (d * d) / 4)
        expect(
          far(elbow, { x: 100 + (d / 2) * Math.cos(a) - off * Math.sin(a), y: 100 + (d / 2) * Math.sin(a) + off * Math.cos(a) }),
        ).toBeLessThan(1e-6)
      }),
    )
  })

  test('the bend side is flipped by its channel and asked for by a pole', () => {
    const puppet = withConstraint(chainPuppet(2), reachWith(['b0', 'b1'], { side: 1 }))
    const to = goalAt(puppet, { x: 160, y: 100 })
    expect(bonePoint(posePuppet(puppet, to), 0, 1).y).toBeGreaterThan(110)
    expect(bonePoint(posePuppet(puppet, { ...to, 'constraint/reach/side': -1 }), 0, 1).y).toBeLessThan(90)
    let poled = run(chainPuppet(5), addTarget, { id: 'pole', name: 'Pole', at: { x: 200, y: 300 }, parent: null })
    poled = withConstraint(poled, reachWith(['b0', 'b1', 'b2', 'b3', 'b4'], { pole: 'pole' }))
    const spots = (y: number): number => {
      const frame = posePuppet(poled, { ...goalAt(poled, { x: 260, y: 100 }), 'target/pole/y': y - 300 })
      return [0, 1, 2, 3].reduce((sum, b) => sum + bonePoint(frame, b, 1).y - 100, 0)
    }
    expect(spots(300)).toBeGreaterThan(50)
    expect(spots(-100)).toBeLessThan(-50)
  })

  test('limits are never exceeded in 10,000 random targets, and what limits allow is reached to 0.1 px', () => {
    let puppet = chainPuppet(4)
    for (const bone of ['b1', 'b2', 'b3']) puppet = run(puppet, setLimits, { bone, limits: { min: -10, max: 70 } })
    puppet = withConstraint(puppet, reachWith(['b0', 'b1', 'b2', 'b3']))
    const rig = compile(puppet)
    const frame = makeFrame(rig)
    const pose = new Float64Array(rig.restPose.length)
    const random = seededRandom(7)
    let reached = 0
    for (let i = 0; i < 10_000; i++) {
      // Half of the targets are spots that the chain has within its limits, the others lie anywhere.
      let to = { x: 100 + 500 * (random() - 0.5), y: 100 + 500 * (random() - 0.5) }
      const isAllowed = i % 2 === 0
      if (isAllowed) {
        const own = Object.fromEntries([0, 1, 2, 3].map((b) => [`bone/b${b}/angle`, b === 0 ? 360 * random() - 180 : 80 * random() - 10]))
        evaluate(rig, writePose(rig, { ...own, 'constraint/reach/amount': 0 }, pose), frame)
        to = tip(frame)
      }
      evaluate(rig, writePose(rig, goalAt(puppet, to), pose), frame)
      for (let b = 1; b < 4; b++) {
        const angle = frame.skeleton.angle[b]!
        if (!(angle >= -10 - 1e-9 && angle <= 70 + 1e-9)) throw new Error(`Bone ${b} is at ${angle} for target ${i}.`)
      }
      if (isAllowed && far(tip(frame), to) < 0.1) reached++
    }
    expect(reached / 5000).toBeGreaterThan(0.995)
  })

  test('soft reach eases into full extension: no joint turns faster than the target moves', () => {
    const turnsOf = (soft: number): number => {
      const puppet = withConstraint(chainPuppet(2), reachWith(['b0', 'b1'], { side: 1, soft }))
      let fastest = 0
      let before = NaN
      for (let x = 180; x <= 220; x += 0.1) {
        const frame = posePuppet(puppet, goalAt(puppet, { x, y: 100 }))
        const angle = frame.skeleton.angle[1]!
        if (!Number.isNaN(before)) fastest = Math.max(fastest, Math.abs(angle - before))
        before = angle
      }
      return fastest
    }
    expect(turnsOf(0)).toBeGreaterThan(4)
    expect(turnsOf(0.1)).toBeLessThan(1)
  })

  test('a limb that may stretch comes to what is too far, and keeps its area', () => {
    const puppet = withConstraint(chainPuppet(2), reachWith(['b0', 'b1'], { stretch: 2 }))
    const frame = posePuppet(puppet, goalAt(puppet, { x: 250, y: 100 }))
    expect(far(tip(frame), { x: 250, y: 100 })).toBeLessThan(0.01)
    const m = frame.bones
    expect(m[0]! * m[3]! - m[1]! * m[2]!).toBeCloseTo(1, 9)
    expect(tip(posePuppet(puppet, goalAt(puppet, { x: 900, y: 100 }))).x).toBeCloseTo(300, 3)
  })

  test('a foot stays level whatever the leg does, and turns with its target', () => {
    const legs = chainPuppet(3)
    const puppet = withConstraint(legs, reachWith(['b0', 'b1'], { level: 'b2', side: 1 }))
    for (const x of [120, 150, 190]) {
      const frame = posePuppet(puppet, goalAt(puppet, { x, y: 130 }))
      expect(frame.skeleton.turn[2]).toBeCloseTo(0, 9)
      expect(posePuppet(puppet, { ...goalAt(puppet, { x, y: 130 }), 'target/goal/angle': 20 }).skeleton.turn[2]).toBeCloseTo(20, 9)
    }
  })

  test('its amount blends between the own turn and the reach', () => {
    const puppet = withConstraint(chainPuppet(2), reachWith(['b0', 'b1'], { side: 1 }))
    const at = (amount: number) =>
      posePuppet(puppet, { ...goalAt(puppet, { x: 150, y: 150 }), 'constraint/reach/amount': amount }).skeleton.angle[1]!
    expect(at(0)).toBe(0)
    expect(at(0.5)).toBeCloseTo(at(1) / 2, 9)
  })

  test('degenerate input gives a sane picture: no NaN', () => {
    const puppet = withConstraint(chainPuppet(3), reachWith(['b0', 'b1', 'b2'], { soft: 0.2, stretch: 1.5 }))
    const flat: Puppet = { ...puppet, bones: { ...puppet.bones, b1: { ...puppet.bones['b1']!, end: puppet.bones['b1']!.start } } }
    for (const to of [
      { x: 100, y: 100 },
      { x: 100.0000001, y: 100 },
      { x: 400, y: 100 },
      { x: 250, y: 100 },
    ])
      for (const one of [puppet, flat]) for (const value of posePuppet(one, goalAt(one, to)).bones) expect(value).not.toBeNaN()
  })
})

describe('dragging what is led', () => {
  test('the target that leads a bone is the nearest one of an acting reach or path; without an amount nothing leads', () => {
    let puppet = withConstraint(chainPuppet(3), reachWith(['b0', 'b1'], { level: 'b2' }))
    const rig = compile(puppet)
    const frame = makeFrame(rig)
    const posed = (pose: Record<string, number>) => {
      const values = writePose(rig, pose, new Float64Array(rig.restPose.length))
      evaluate(rig, values, frame)
      return [0, 1, 2].map((bone) => leadingTarget(frame, values, bone, { x: 0, y: 0 }))
    }
    expect(posed({})).toEqual(['goal', 'goal', 'goal'])
    expect(posed({ 'constraint/reach/amount': 0 })).toEqual([null, null, null])
    puppet = run(chainPuppet(2), addTarget, { id: 'near', name: 'Near', at: { x: 150, y: 60 }, parent: null })
    const path = withConstraint(puppet, { kind: 'path', id: 'c', name: 'Path', amount: 1, bones: ['b0', 'b1'], targets: ['near', 'goal'] })
    const along = posePuppet(path)
    expect(leadingTarget(along, along.rig.restPose, 1, { x: 140, y: 70 })).toBe('near')
    expect(leadingTarget(along, along.rig.restPose, 1, { x: 195, y: 100 })).toBe('goal')
  })
})

describe('other constraints', () => {
  test('a bone copies a share of another one’s turn', () => {
    const puppet = withConstraint(chainPuppet(2), { kind: 'copy', id: 'c', name: 'Half', amount: 1, bone: 'b1', from: 'b0', ratio: 0.5 })
    expect(posePuppet(puppet, { 'bone/b0/angle': 40 }).skeleton.angle[1]).toBeCloseTo(20, 9)
  })

  test('a bone points at its target', () => {
    const puppet = withConstraint(chainPuppet(1), { kind: 'aim', id: 'c', name: 'Look', amount: 1, bone: 'b0', target: 'goal' })
    const frame = posePuppet(puppet, goalAt(puppet, { x: 100, y: 20 }))
    expect(frame.skeleton.turn[0]).toBeCloseTo(90, 9)
  })

  test('a bone keeps its distance', () => {
    const puppet = withConstraint(chainPuppet(1), {
      kind: 'distance',
      id: 'c',
      name: 'Lead',
      amount: 1,
      bone: 'b0',
      target: 'goal',
      least: 20,
      most: 60,
    })
    const at = (x: number): number => far(bonePoint(posePuppet(puppet, goalAt(puppet, { x, y: 100 })), 0, 0), { x, y: 100 })
    expect(at(400)).toBeCloseTo(60, 9)
    expect(at(110)).toBeCloseTo(20, 9)
    expect(at(140)).toBeCloseTo(40, 9)
    expect(at(100)).toBeCloseTo(20, 9)
  })

  test('a chain lies along a path: every joint is on the curve, every bone as long as before', () => {
    let puppet = chainPuppet(6, 40)
    for (const [id, x, y] of [
      ['p1', 180, 20],
      ['p2', 260, 160],
    ] as const)
      puppet = run(puppet, addTarget, { id, name: id, at: { x, y }, parent: null })
    puppet = withConstraint(puppet, {
      kind: 'path',
      id: 'c',
      name: 'Path',
      amount: 1,
      bones: ['b0', 'b1', 'b2', 'b3', 'b4', 'b5'],
      targets: ['p1', 'p2', 'goal'],
    })
    const frame = posePuppet(puppet, {})
    for (let b = 0; b < 6; b++) expect(far(bonePoint(frame, b, 0), bonePoint(frame, b, 1))).toBeCloseTo(40, 6)
    const passes = (spot: Vec): number =>
      Math.min(...Array.from({ length: 600 }, (_, k) => far(bonePoint(frame, Math.floor(k / 100), (k % 100) / 100), spot)))
    expect(passes({ x: 180, y: 20 })).toBeLessThan(8)
  })

  test('a bone that does not take over turn stays upright, one that takes over length grows along', () => {
    let puppet = chainPuppet(2)
    puppet = run(puppet, setBoneNature, { bones: ['b1'], inherits: { turn: false, scale: true } })
    const frame = posePuppet(puppet, { 'bone/b0/angle': 30, 'bone/b0/length': 2 })
    expect(frame.skeleton.turn[1]).toBe(0)
    expect(far(bonePoint(frame, 1, 0), bonePoint(frame, 1, 1))).toBeCloseTo(100, 9)
  })
})

describe('the order of constraints', () => {
  test('a limb cannot reach for what hangs from it', () => {
    const puppet = chainPuppet(3)
    const bound = run(puppet, hangTarget, { target: 'goal', parent: 'b2' })
    expect(() => withConstraint(bound, reachWith(['b0', 'b1', 'b2']))).toThrow('would wait for itself')
    const reaching = withConstraint(puppet, reachWith(['b0', 'b1']))
    expect(() => run(reaching, hangTarget, { target: 'goal', parent: 'b1' })).toThrow('would wait for itself')
  })

  test('what one needs is done first, wherever it stands in the list', () => {
    let puppet = chainPuppet(3)
    puppet = run(puppet, addTarget, { id: 'eye', name: 'Eye', at: { x: 250, y: 20 }, parent: null })
    puppet = withConstraint(puppet, { kind: 'aim', id: 'look', name: 'Look', amount: 1, bone: 'b2', target: 'eye' })
    puppet = withConstraint(puppet, reachWith(['b0', 'b1'], { side: 1 }))
    const frame = posePuppet(puppet, goalAt(puppet, { x: 160, y: 140 }))
    const [from, to] = [bonePoint(frame, 2, 0), bonePoint(frame, 2, 1)]
    const cross = (to.x - from.x) * (20 - from.y) - (to.y - from.y) * (250 - from.x)
    expect(Math.abs(cross) / far(from, { x: 250, y: 20 })).toBeLessThan(1e-6)
  })

  test('limbs go through bones that are put in or split off, and keep what they keep level', () => {
    const puppet = withConstraint(chainPuppet(3), reachWith(['b0', 'b1'], { level: 'b2' }))
    const split = run(puppet, splitBone, { bone: 'b1', ids: ['s1', 's2'] })
    expect(split.constraints[0]).toMatchObject({ bones: ['b0', 'b1', 's1', 's2'], level: 'b2' })
    const inserted = run(puppet, insertBones, { bone: 'b1', ids: ['n1'] })
    expect(inserted.constraints[0]).toMatchObject({ bones: ['b0', 'n1', 'b1'], level: 'b2' })
    const before = run(puppet, insertBones, { bone: 'b2', ids: ['n2'] })
    expect(before.constraints[0]).toMatchObject({ bones: ['b0', 'b1', 'n2'], level: 'b2' })
    for (const one of [split, inserted, before]) expect(brokenInvariants(one)).toEqual([])
  })

  test('a target that nothing looks for stays when other bones go', () => {
    const puppet = run(chainPuppet(3), deleteBone, { bone: 'b2', withChildren: true })
    expect(Object.keys(puppet.targets)).toEqual(['goal'])
  })

  test('bones that go away are cut out of limbs; what has nothing left to look for goes with its target', () => {
    const puppet = withConstraint(chainPuppet(3), reachWith(['b0', 'b1', 'b2']))
    const shorter = run(puppet, deleteBone, { bone: 'b2', withChildren: true })
    expect(shorter.constraints[0]).toMatchObject({ bones: ['b0', 'b1'] })
    const gone = run(puppet, deleteBone, { bone: 'b0', withChildren: false })
    expect(gone.constraints).toEqual([])
    expect(gone.targets).toEqual({})
    expect(run(puppet, hangBone, { bone: 'b2', parent: null }).constraints[0]).toMatchObject({ bones: ['b0', 'b1'] })
    const lost = run(puppet, deleteTarget, { target: 'goal' })
    expect(lost.constraints).toEqual([])
    for (const one of [shorter, gone, lost]) expect(brokenInvariants(one)).toEqual([])
    expect(() => run(puppet, addConstraint, { constraint: reachWith(['b0', 'b2'], { id: 'other' }) })).toThrow('does not hang from')
  })
})
