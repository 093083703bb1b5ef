import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { autoWeights } from '../binds/autoWeights'
import type { Puppet } from './schema'
import { bindBlended, bindWhole } from '../binds/commands'
import { setLimits, addBone } from '../bones/commands'
import { run } from './edit'
import { groupParts, setHome, setPartOpacity, showPart } from '../parts/commands'
import { armPuppet, generatePuppet, TYPICAL } from '../test/puppets'
import { compile } from './compile'
import { dragTo, grabBone } from '../posing/drag'
import { evaluate, poseRig, makeFrame, writePose } from './evaluate'
import { bonePoint, frameBounds, partsAt } from './probe'
import type { Frame } from './frame'

/** The arm with its sleeve bent by both bones and its hand on the palm. */
function riggedArm(): Puppet {
  const puppet = run(armPuppet(), bindWhole, { parts: ['hand'], bone: 'palm' })
  return run(puppet, bindBlended, { part: 'sleeve', bones: ['upper', 'lower'], field: autoWeights(puppet, 'sleeve', ['upper', 'lower']) })
}

const bounds = (frame: Frame, part: string) => frameBounds(frame, new Set([part]))!

describe('evaluation', () => {
  test('at rest every part is where it was drawn, however it is bound', () => {
    const free = poseRig(compile(armPuppet()))
    const bound = poseRig(compile(riggedArm()))
    for (const part of ['sleeve', 'hand']) {
      for (const side of ['minX', 'minY', 'maxX', 'maxY'] as const)
        expect(bounds(bound, part)[side]).toBeCloseTo(bounds(free, part)[side], 9)
    }
  })

  test('a bone turns what follows it about its ring, counter-clockwise', () => {
    const frame = poseRig(compile(riggedArm()), { 'bone/lower/angle': 90 })
    const hand = bounds(frame, 'hand')
    expect(hand).toMatchObject({ minX: expect.closeTo(185), maxX: expect.closeTo(215), minY: expect.closeTo(-40), maxY: expect.closeTo(0) })
  })

  test('turns add up along the chain', () => {
    const { rig } = poseRig(compile(riggedArm()))
    const frame = poseRig(rig, { 'bone/upper/angle': 30, 'bone/lower/angle': 60, 'bone/palm/angle': -45 })
    const tip = bonePoint(frame, rig.bones.index.get('palm')!, 1)
    const at = (degrees: number): [number, number] => [Math.cos((degrees * Math.PI) / 180), -Math.sin((degrees * Math.PI) / 180)]
    expect(tip.x).toBeCloseTo(100 + 100 * at(30)[0] + 100 * at(90)[0] + 40 * at(45)[0])
    expect(tip.y).toBeCloseTo(100 + 100 * at(30)[1] + 100 * at(90)[1] + 40 * at(45)[1])
  })

  test('an angle past its limit counts as the limit', () => {
    const puppet = run(riggedArm(), setLimits, { bone: 'lower', limits: { min: -5, max: 40 } })
    const { rig } = poseRig(compile(puppet))
    const over = poseRig(rig, { 'bone/lower/angle': 400 })
    expect([...over.bones]).toEqual([...poseRig(rig, { 'bone/lower/angle': 40 }).bones])
  })

  test('a blended sleeve keeps its far ends with their bones', () => {
    const frame = poseRig(compile(riggedArm()), { 'bone/lower/angle': 90 })
    const d = frame.rig.drawings.findIndex((x) => x.tessellation)
    const rest = frame.rig.drawings[d]!.geometry.points
    const posed = frame.points[d]!
    for (let i = 0; i < rest.length; i += 2) {
      const [x, y] = [rest[i]!, rest[i + 1]!]
      if (x < 120) expect(Math.hypot(posed[i]! - x, posed[i + 1]! - y)).toBeLessThan(6)
      if (x > 285) expect(Math.hypot(posed[i]! - (200 + y - 100), posed[i + 1]! - (100 - (x - 200)))).toBeLessThan(6)
    }
  })

  test('a group moved by hand carries everything in it, and bones act after it', () => {
    const puppet = run(riggedArm(), groupParts, { parts: ['sleeve', 'hand'], id: 'both', name: 'Both' })
    const { rig } = poseRig(compile(puppet))
    const moved = bounds(poseRig(rig, { 'part/both/x': 30, 'part/both/y': 7 }), 'hand')
    expect(moved.minX).toBeCloseTo(330)
    expect(moved.minY).toBeCloseTo(92)
    const turned = bounds(poseRig(rig, { 'part/both/x': 30, 'bone/upper/angle': 180 }), 'hand')
    expect(turned.maxX).toBeCloseTo(-130)
  })

  test('a part turns and grows about its pivot', () => {
    const puppet = run(armPuppet(), setHome, { part: 'hand', home: { x: 0, y: 0, angle: 0, scaleX: 1, scaleY: 1, skew: 0 } })
    const pivoted = { ...puppet, parts: { ...puppet.parts, hand: { ...puppet.parts['hand']!, pivot: { x: 300, y: 100 } } } }
    const frame = poseRig(compile(pivoted), { 'part/hand/angle': 180, 'part/hand/scaleX': 2 })
    expect(bounds(frame, 'hand')).toMatchObject({ minX: expect.closeTo(220), maxX: expect.closeTo(300) })
  })

  test('the same rig and pose give the same numbers, whatever was shown before', () => {
    const rig = compile(riggedArm())
    const angle = fc.integer({ min: -180, max: 180 })
    fc.assert(
      fc.property(fc.array(fc.tuple(angle, angle, angle), { minLength: 1, maxLength: 6 }), (poses) => {
        const frame = makeFrame(rig)
        const pose = new Float64Array(rig.restPose.length)
        let last = {}
        for (const [a, b, c] of poses) {
          last = { 'bone/upper/angle': a, 'bone/lower/angle': b, 'part/hand/angle': c }
          evaluate(rig, writePose(rig, last, pose), frame)
        }
        const fresh = poseRig(rig, last)
        expect([...frame.parts]).toEqual([...fresh.parts])
        expect([...frame.points[0]!]).toEqual([...fresh.points[0]!])
      }),
    )
  })

  test('compiling again after an edit makes new geometry for nothing else', () => {
    const puppet = generatePuppet(TYPICAL)
    const before = compile(puppet)
    const after = compile(run(puppet, setPartOpacity, { part: Object.keys(puppet.parts)[3]!, opacity: 0.5 }))
    before.drawings.forEach((d, i) => expect(after.drawings[i]!.geometry).toBe(d.geometry))
  })

  test('hidden parts are neither painted nor found', () => {
    const puppet = run(armPuppet(), showPart, { parts: ['hand'], visible: false })
    const frame = poseRig(compile(puppet))
    expect(frame.rig.drawings).toHaveLength(1)
    expect(partsAt(frame, 320, 100)).toEqual([])
  })

  test('pushes and pops of the paint list are balanced', () => {
    const { paint } = compile(run(armPuppet(), groupParts, { parts: ['hand'], id: 'g', name: 'G' }))
    paint.forEach((op, i) => {
      if (op.op === 'push') expect(paint[op.end]).toMatchObject({ op: 'pop', part: op.part })
      else if (op.op === 'draw') expect(i).toBeGreaterThan(0)
    })
    expect(paint.filter((o) => o.op === 'push')).toHaveLength(paint.filter((o) => o.op === 'pop').length)
  })
})

describe('probing', () => {
  test('parts under a spot come top to bottom, also when posed', () => {
    const puppet = run(armPuppet(), bindWhole, { parts: ['hand'], bone: 'palm' })
    const { rig } = poseRig(compile(puppet))
    const folded = poseRig(rig, { 'bone/palm/angle': 180 })
    expect(partsAt(folded, 280, 100)).toEqual(['hand', 'sleeve'])
    expect(partsAt(folded, 320, 100)).toEqual([])
  })

  test('a part without opacity lets the click through', () => {
    const puppet = run(armPuppet(), bindWhole, { parts: ['hand'], bone: 'palm' })
    const frame = poseRig(compile(puppet), { 'bone/palm/angle': 180, 'part/hand/opacity': 0 })
    expect(partsAt(frame, 280, 100)).toEqual(['sleeve'])
  })
})

describe('dragging bones', () => {
  const rig = compile(riggedArm())
  const pose = new Float64Array(rig.restPose.length)
  const posed = (values: Record<string, number>) => evaluate(rig, writePose(rig, values, pose), makeFrame(rig))
  const index = (bone: string): number => rig.bones.index.get(bone)!
  const BENT = { 'bone/lower/angle': 20 }

  test('a rod turns its own bone so that the held spot follows the pointer', () => {
    const frame = posed(BENT)
    const held = grabBone(frame, pose, index('lower'), { x: 290, y: 70 }, 'rod')
    const values = dragTo(frame, pose, held, { x: 200, y: 20 })
    expect(Object.keys(values)).toEqual(['bone/lower/angle'])
    expect(bonePoint(poseRig(rig, values), index('lower'), 1).y).toBeLessThan(20)
  })

  test('the bead at the end of a limb is reached for with the two bones above', () => {
    const frame = posed(BENT)
    const held = grabBone(frame, pose, index('palm'), bonePoint(frame, index('palm'), 1), 'bead')
    expect(held.kind).toBe('reach')
    const values = dragTo(frame, pose, held, { x: 180, y: 10 })
    expect(Object.keys(values).sort()).toEqual(['bone/lower/angle', 'bone/upper/angle'])
    const reached = bonePoint(poseRig(rig, values), index('palm'), 1)
    expect(reached.x).toBeCloseTo(180, 5)
    expect(reached.y).toBeCloseTo(10, 5)
  })

  test('any spot of the drawing follows the pointer, and a long chain bends as a whole', () => {
    let puppet = armPuppet()
    let from = { x: 340, y: 100 }
    for (let i = 0; i < 4; i++) {
      const to = { x: from.x + 30, y: 100 + 5 * i }
      puppet = run(puppet, addBone, { id: `tail-${i}`, name: 'Tail', parent: i === 0 ? 'palm' : `tail-${i - 1}`, start: from, end: to })
      from = to
    }
    const long = compile(puppet)
    const frame = poseRig(long)
    const rest = new Float64Array(long.restPose)
    const spot = { x: 440, y: 90 }
    const held = grabBone(frame, rest, long.bones.index.get('tail-3')!, spot, 'drawing')
    expect(held.bones).toHaveLength(7)
    const values = dragTo(frame, rest, held, { x: 250, y: 220 })
    const after = poseRig(long, values)
    const tail = 6 * long.bones.index.get('tail-3')!
    const [a, b, c, d, e, f] = [...after.bones.subarray(tail, tail + 6)] as [number, number, number, number, number, number]
    expect(a * spot.x + c * spot.y + e).toBeCloseTo(250, 1)
    expect(b * spot.x + d * spot.y + f).toBeCloseTo(220, 1)
  })

  test('a root is moved by its ring, and everything goes with it', () => {
    const frame = posed(BENT)
    const held = grabBone(frame, pose, index('upper'), { x: 100, y: 100 }, 'ring')
    expect(held.kind).toBe('move')
    const values = dragTo(frame, pose, held, { x: 130, y: 80 })
    expect(values).toEqual({ 'bone/upper/x': 30, 'bone/upper/y': -20 })
    const before = bonePoint(frame, index('palm'), 1)
    const after = bonePoint(poseRig(rig, { ...BENT, ...values }), index('palm'), 1)
    expect(after.x - before.x).toBeCloseTo(30)
    expect(after.y - before.y).toBeCloseTo(-20)
  })

  test('a drawing moves the root it hangs on only where more than one limb hangs there too', () => {
    const spot = { x: 120, y: 100 }
    expect(grabBone(posed(BENT), pose, index('upper'), spot, 'drawing').kind).toBe('turn')
    const tail = { id: 'tail', name: 'Tail', parent: 'upper', start: { x: 100, y: 100 }, end: { x: 60, y: 100 } }
    const branching = compile(run(riggedArm(), addBone, tail))
    const rest = new Float64Array(branching.restPose)
    expect(grabBone(poseRig(branching), rest, branching.bones.index.get('upper')!, spot, 'drawing').kind).toBe('move')
  })
})
