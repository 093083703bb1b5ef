import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Cage, Deformer, Pins } from './records'
import type { Puppet } from '../puppet/schema'
import { duplicateParts, ungroupParts } from '../parts/arrange'
import { bindAttached, bindBlended } from '../binds/commands'
import { addDeformer, deleteDeformer, orderDeformer, setDeformer } from './commands'
import { deletePart, groupParts } from '../parts/commands'
import { makeTwin } from '../twins/commands'
import { addView } from '../views/commands'
import { run } from '../puppet/edit'
import { setPose } from '../poses/commands'
import { autoWeights, bindMesh } from '../binds/autoWeights'
import { brokenInvariants } from '../puppet/invariants'
import { armPuppet } from '../test/puppets'
import { compile } from '../puppet/compile'
import { evaluate, posePuppet, makeFrame, writePose } from '../puppet/evaluate'
import { posedMap } from '../puppet/posedMap'
import { posedOutline } from '../puppet/probe'
import { viewChannel } from '../views/channels'
import type { Frame } from '../puppet/frame'

const common = { when: 'before', bone: null, on: true, amount: 1, only: null } as const

export const cage = (more: Partial<Cage> = {}): Cage => {
  const made = {
    kind: 'cage' as const,
    id: 'cage',
    name: 'Cage',
    ...common,
    box: { x: 100, y: 80, width: 200, height: 40 },
    angle: 0,
    columns: 3,
    rows: 2,
    smooth: true,
    ...more,
  }
  return { ...made, form: more.form ?? new Array<number>(2 * (made.columns + 1) * (made.rows + 1)).fill(0) }
}

const bend: Deformer = {
  kind: 'bend',
  id: 'bend',
  name: 'Bend',
  ...common,
  points: [
    { id: 'q0', at: { x: 100, y: 100 } },
    { id: 'q1', at: { x: 200, y: 100 } },
    { id: 'q2', at: { x: 300, y: 100 } },
  ],
  stretch: true,
  holdStart: false,
  holdEnd: false,
}

function pins(puppet: Puppet, part = 'sleeve'): Pins {
  const { mesh, vertices } = bindMesh(puppet, part, 400)
  const pin = (id: string, x: number, turns: boolean) => ({
    id,
    kind: 'pin' as const,
    at: { x, y: 100 },
    end: null,
    held: true,
    turns,
    radius: 0,
    depth: 0,
  })
  return {
    kind: 'pins',
    id: 'pins',
    name: 'Pins',
    ...common,
    vertices,
    triangles: mesh.triangles,
    stiffness: vertices.filter((_, i) => i % 2 === 0).map(() => 1),
    pins: [pin('a', 110, true), pin('b', 290, false)],
  }
}

const withDeformer = (deformer: Deformer, puppet = armPuppet(), part = 'sleeve'): Puppet => run(puppet, addDeformer, { part, deformer })
const at = (frame: Frame, x: number, y: number, part = 'sleeve') => posedMap(frame, part).toCanvas({ x, y })

function areaOf(frame: Frame, part: string): number {
  const d = frame.rig.drawings.findIndex((x) => frame.rig.parts.ids[x.part] === part)
  let sum = 0
  for (const shape of frame.rig.drawings[d]!.geometry.shapes)
    for (const { points } of posedOutline(frame, d, shape))
      for (let i = 0, j = points.length - 2; i < points.length; j = i, i += 2)
        sum += points[j]! * points[i + 1]! - points[i]! * points[j + 1]!
  return Math.abs(sum) / 2
}

describe('cages', () => {
  test('a lattice reproduces affine maps exactly, inside and out, smooth or straight, turned or not', () => {
    const number = fc.double({ min: -1.5, max: 1.5, noNaN: true })
    fc.assert(
      fc.property(number, number, number, number, fc.boolean(), fc.integer({ min: -90, max: 90 }), (a, b, c, d, smooth, angle) => {
        const one = cage({ smooth, angle })
        const rad = (angle * Math.PI) / 180
        // Moves of the points along the axes of the lattice, for the map q -> A q about the middle of the box.
        const form = one.form.map((_, k) => {
          const i = k >> 1
          const u = 200 * ((i % 4) / 3 - 0.5)
          const v = 40 * (Math.floor(i / 4) / 2 - 0.5)
          return k % 2 === 0 ? a * u + c * v : b * u + d * v
        })
        const frame = posePuppet(withDeformer({ ...one, form }))
        for (const [x, y] of [
          [100, 80],
          [163, 97],
          [288, 119],
          [350, 60],
          [20, 180],
        ] as const) {
          const u = Math.cos(rad) * (x - 200) - Math.sin(rad) * (y - 100)
          const v = Math.sin(rad) * (x - 200) + Math.cos(rad) * (y - 100)
          const du = a * u + c * v
          const dv = b * u + d * v
          const spot = at(frame, x, y)
          expect(spot.x).toBeCloseTo(x + Math.cos(rad) * du + Math.sin(rad) * dv, 7)
          expect(spot.y).toBeCloseTo(y - Math.sin(rad) * du + Math.cos(rad) * dv, 7)
        }
      }),
      { numRuns: 40 },
    )
  })

  test('points of the lattice go where their handles are posed; off or without amount nothing moves', () => {
    const puppet = withDeformer(cage())
    const pose = { 'handle/cage.1.1/x': 12, 'handle/cage.1.1/y': -9 }
    const spot = at(posePuppet(puppet, pose), 100 + 200 / 3, 100)
    expect(spot).toMatchObject({ x: expect.closeTo(100 + 200 / 3 + 12, 6) as number, y: expect.closeTo(91, 6) as number })
    for (const more of [{ 'deformer/cage/on': 0 }, { 'deformer/cage/amount': 0 }] as Record<string, number>[])
      expect(at(posePuppet(puppet, { ...pose, ...more }), 150, 100)).toEqual(at(posePuppet(armPuppet()), 150, 100))
    expect(at(posePuppet(puppet, { ...pose, 'deformer/cage/amount': 0.5 }), 100 + 200 / 3, 100).x).toBeCloseTo(100 + 200 / 3 + 6, 6)
  })

  test('a cage without breadth, or of a flat part, moves nothing and gives no NaN', () => {
    const flat = cage({ box: { x: 100, y: 80, width: 0, height: 40 } })
    const frame = posePuppet(withDeformer(flat), { 'handle/cage.1.1/x': 12 })
    expect(at(frame, 150, 100)).toEqual({ x: 150, y: 100 })
  })

  test('a cage around a group deforms all in it, and straight lines are split where they bend', () => {
    const puppet = armPuppet()
    const all = withDeformer(cage({ box: { x: 100, y: 80, width: 240, height: 40 } }), puppet, puppet.root)
    const frame = posePuppet(all, { 'handle/cage.1.0/y': -20, 'handle/cage.1.1/y': -20, 'handle/cage.1.2/y': -20 })
    expect(at(frame, 180, 100).y).toBeCloseTo(80, 6)
    expect(frame.rig.drawings.every((d) => d.tessellation)).toBe(true)
    expect(frame.rig.drawings[0]!.tessellation!.bent.anchor.length).toBeGreaterThan(30)
  })
})

describe('bends', () => {
  test('what lies along the curve bends with it; distances from it stay', () => {
    const frame = posePuppet(withDeformer(bend), { 'handle/q1/y': -60 })
    expect(at(frame, 200, 100)).toMatchObject({ x: expect.closeTo(200, 6) as number, y: expect.closeTo(40, 6) as number })
    const [over, under] = [at(frame, 200, 80), at(frame, 200, 120)]
    expect(Math.hypot(over.x - under.x, over.y - under.y)).toBeCloseTo(40, 6)
    expect(over.y).toBeCloseTo(20, 5)
  })

  test('at rest nothing moves; thickness along the curve scales what is beside it', () => {
    const puppet = withDeformer(bend)
    expect(at(posePuppet(puppet), 137, 93)).toEqual({ x: 137, y: 93 })
    expect(at(posePuppet(puppet, { 'handle/q1/scale': 2 }), 200, 80).y).toBeCloseTo(60, 6)
  })

  test('without stretch the length from the first point on stays', () => {
    const kept = withDeformer({ ...bend, stretch: false })
    const frame = posePuppet(kept, { 'handle/q1/y': -60, 'handle/q2/x': 60 })
    let length = 0
    for (let x = 100; x < 300; x++) {
      const [a, b] = [at(frame, x, 100), at(frame, x + 1, 100)]
      length += Math.hypot(a.x - b.x, a.y - b.y)
    }
    expect(length).toBeGreaterThan(199)
    expect(length).toBeLessThan(201)
  })

  test('a held end keeps its direction', () => {
    const direction = (holdStart: boolean): number => {
      const frame = posePuppet(withDeformer({ ...bend, holdStart }), { 'handle/q1/y': -60 })
      const [a, b] = [at(frame, 100, 100), at(frame, 100.5, 100)]
      return Math.atan2(b.y - a.y, b.x - a.x)
    }
    expect(Math.abs(direction(true))).toBeLessThan(0.02)
    expect(Math.abs(direction(false))).toBeGreaterThan(0.3)
  })

  test('coincident points of a curve give finite places', () => {
    const points = bend.kind === 'bend' ? [bend.points[0]!, { id: 'q9', at: { x: 100, y: 100 } }, bend.points[2]!] : []
    const frame = posePuppet(withDeformer({ ...bend, points } as Deformer), { 'handle/q9/y': 20 })
    for (const v of frame.points[0]!) expect(Number.isFinite(v)).toBe(true)
  })
})

describe('pins', () => {
  test('rigid motions of all pins move the part rigidly', () => {
    const puppet = withDeformer(pins(armPuppet()))
    const a = Math.PI / 6
    const turn = (x: number, y: number) => ({
      x: 200 + Math.cos(a) * (x - 200) + Math.sin(a) * (y - 100),
      y: 100 - Math.sin(a) * (x - 200) + Math.cos(a) * (y - 100),
    })
    const by = (x: number) => ({ x: turn(x, 100).x - x, y: turn(x, 100).y - 100 })
    const pose = {
      'handle/a/x': by(110).x,
      'handle/a/y': by(110).y,
      'handle/a/angle': 30,
      'handle/b/x': by(290).x,
      'handle/b/y': by(290).y,
    }
    const frame = posePuppet(puppet, pose)
    for (const [x, y] of [
      [100, 80],
      [180, 120],
      [300, 100],
    ] as const) {
      expect(at(frame, x, y).x).toBeCloseTo(turn(x, y).x, 2)
      expect(at(frame, x, y).y).toBeCloseTo(turn(x, y).y, 2)
    }
  })

  test('the same pose gives the same picture, whatever was shown before', () => {
    const puppet = withDeformer(pins(armPuppet()))
    const rig = compile(puppet)
    const frame = makeFrame(rig)
    const buffer = new Float64Array(rig.restPose.length)
    const show = (pose: Record<string, number>): number[] => [...evaluate(rig, writePose(rig, pose, buffer), frame).points[0]!]
    const once = show({ 'handle/b/y': -70 })
    show({ 'handle/b/y': 55, 'handle/a/angle': 80 })
    expect(show({ 'handle/b/y': -70 })).toEqual(once)
    expect([...posePuppet(puppet, { 'handle/b/y': -70 }).points[0]!]).toEqual(once)
  })

  test('a pin that grows, coincident pins and no pins at all give finite places', () => {
    const one = pins(armPuppet())
    for (const list of [one.pins, [...one.pins, { ...one.pins[0]!, id: 'c' }], []]) {
      const frame = posePuppet(withDeformer({ ...one, pins: list }), list.length > 0 ? { 'handle/a/scale': 1.5, 'handle/a/x': 9 } : {})
      for (const v of frame.points[0] ?? frame.parts) expect(Number.isFinite(v)).toBe(true)
    }
  })
})

describe('the stack', () => {
  const bent = (): Puppet => {
    const puppet = armPuppet()
    return run(puppet, bindBlended, { part: 'sleeve', bones: ['upper', 'lower'], field: autoWeights(puppet, 'sleeve', ['upper', 'lower']) })
  }

  test('before bones a cage goes along with the arm; after them it stays where it is, or goes with a bone', () => {
    const swell = cage({ form: cage().form.map((_, k) => (k % 2 === 1 ? 10 : 0)) })
    const turned = { 'bone/upper/angle': 90 }
    expect(at(posePuppet(withDeformer(swell, bent()), turned), 130, 100).x).toBeCloseTo(110, 1)
    expect(at(posePuppet(withDeformer({ ...swell, when: 'after' }, bent()), turned), 130, 100).y).toBeCloseTo(80, 1)
    expect(at(posePuppet(withDeformer({ ...swell, when: 'after', bone: 'upper' }, bent()), turned), 130, 100).x).toBeCloseTo(110, 1)
  })

  test('limbs keep at least 92% of their area bent by 120 degrees, and 97% by 60', () => {
    const area = areaOf(posePuppet(bent()), 'sleeve')
    expect(areaOf(posePuppet(bent(), { 'bone/lower/angle': 120 }), 'sleeve') / area).toBeGreaterThan(0.92)
    expect(areaOf(posePuppet(bent(), { 'bone/lower/angle': 60 }), 'sleeve') / area).toBeGreaterThan(0.97)
  })

  test('a bone that is drawn out draws out what is blended with it, and keeps its area', () => {
    const rest = posePuppet(bent())
    const frame = posePuppet(bent(), { 'bone/lower/length': 1.5 })
    expect(at(frame, 295, 100).x).toBeGreaterThan(335)
    expect(areaOf(frame, 'sleeve') / areaOf(rest, 'sleeve')).toBeGreaterThan(0.9)
    expect(areaOf(frame, 'sleeve') / areaOf(rest, 'sleeve')).toBeLessThan(1.1)
  })

  test('the order of deformers is their order in the stack', () => {
    let puppet = withDeformer(cage({ form: cage().form.map((_, k) => (k % 2 === 0 ? 40 : 0)) }))
    puppet = withDeformer(bend, puppet)
    const posed = run(puppet, setPose, { values: { 'handle/q1/y': -60 } })
    const first = at(posePuppet(posed), 200, 100)
    const second = at(posePuppet(run(posed, orderDeformer, { part: 'sleeve', deformer: 'bend', index: 0 })), 200, 100)
    expect(first.x).toBeCloseTo(240, 0)
    expect(second).toMatchObject({ x: expect.closeTo(240, 4) as number, y: expect.closeTo(40, 4) as number })
    expect(Math.abs(first.y - second.y)).toBeGreaterThan(3)
  })

  test('channels of a deformer go with it; one of another size keeps what still has a handle', () => {
    const posed = run(withDeformer(cage()), setPose, { values: { 'handle/cage.3.0/x': 5, 'handle/cage.1.1/x': 4, 'deformer/cage/on': 0 } })
    const smaller = run(posed, setDeformer, { part: 'sleeve', deformer: cage({ columns: 2 }) })
    expect(smaller.pose).toEqual({ 'handle/cage.1.1/x': 4, 'deformer/cage/on': 0 })
    expect(run(posed, deleteDeformer, { part: 'sleeve', deformer: 'cage' }).pose).toEqual({})
    expect(brokenInvariants(smaller)).toEqual([])
  })

  test('copies have deformers of their own; a deformed group cannot be dissolved', () => {
    const copied = run(withDeformer(bend), duplicateParts, { parts: ['sleeve'], prefix: 'c' })
    expect(brokenInvariants(copied)).toEqual([])
    expect(Object.values(copied.parts).filter((p) => p.deformers.length > 0)).toHaveLength(2)
    const grouped = run(armPuppet(), groupParts, { parts: ['sleeve', 'hand'], id: 'both', name: 'Both' })
    const caged = withDeformer(cage(), grouped, 'both')
    expect(() => run(caged, ungroupParts, { parts: ['both'] })).toThrow('deformed')
  })

  test('each view keeps its own stack, and what is posed in one is sound in the other', () => {
    let puppet = run(armPuppet(), addView, { id: 'side', name: 'Side' })
    const show = (p: Puppet, view: number): Puppet => run(p, setPose, { values: { [viewChannel(p)]: view } })
    puppet = withDeformer(bend, show(show(puppet, 1), 0))
    puppet = show(show(puppet, 1), 0)
    puppet = run(puppet, deleteDeformer, { part: 'sleeve', deformer: 'bend' })
    const side = run(show(puppet, 1), setPose, { values: { 'handle/q1/y': -60 } })
    expect(side.parts['sleeve']!.deformers).toHaveLength(1)
    const front = show(side, 0)
    expect(front.parts['sleeve']!.deformers).toEqual([])
    for (const one of [side, front, run(front, deletePart, { part: 'sleeve' })]) expect(brokenInvariants(one)).toEqual([])
    expect([...posePuppet(side).evaluation.acting]).toEqual([1])
    expect([...posePuppet(front).evaluation.acting]).toEqual([])
  })

  test('a twin has deformers of its own over the shared drawing', () => {
    const twin = run(withDeformer(bend), makeTwin, { parts: ['sleeve'], bones: [], across: { kind: 'mirror', x: 400 }, prefix: 't' })
    expect(brokenInvariants(twin)).toEqual([])
    const own = twin.parts['t-1']!.deformers[0]!
    expect(own).toMatchObject({ kind: 'bend', id: 't-1-d1' })
    const frame = posePuppet(twin, { 'handle/q1/y': -60, 'handle/t-1-d1.2/y': -60 })
    expect(at(frame, 200, 100, 't-1').y).toBeCloseTo(at(frame, 200, 100).y, 9)
    expect(at(frame, 150, 100, 't-1').x).toBeCloseTo(800 - at(frame, 150, 100).x, 9)
  })
})

describe('parts that hang on others', () => {
  const hung = (how: 'carried' | 'pivoting' | 'fused'): Puppet => {
    const puppet = withDeformer(bend)
    const placed: Puppet = { ...puppet, parts: { ...puppet.parts, hand: { ...puppet.parts['hand']!, pivot: { x: 300, y: 100 } } } }
    return run(placed, bindAttached, { parts: ['hand'], to: 'sleeve', how })
  }
  const pose = { 'handle/q2/y': -60 }

  test('carried: rigidly with the spot and its turn', () => {
    const frame = posePuppet(hung('carried'), pose)
    const spot = at(frame, 300, 100)
    expect(at(frame, 300, 100, 'hand')).toMatchObject({ x: expect.closeTo(spot.x, 6) as number, y: expect.closeTo(spot.y, 6) as number })
    const [a, b] = [at(frame, 300, 100, 'hand'), at(frame, 340, 100, 'hand')]
    expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeCloseTo(40, 9)
    expect(b.y).toBeLessThan(a.y - 15)
  })

  test('pivoting: with the spot, its own turn free', () => {
    const frame = posePuppet(hung('pivoting'), pose)
    const [a, b] = [at(frame, 300, 100, 'hand'), at(frame, 340, 100, 'hand')]
    expect(a.y).toBeCloseTo(at(frame, 300, 100).y, 6)
    expect(b.y).toBeCloseTo(a.y, 6)
  })

  test('fused: exactly as the surface below it', () => {
    const frame = posePuppet(hung('fused'), pose)
    for (const [x, y] of [
      [300, 90],
      [320, 112],
      [338, 100],
    ] as const) {
      const [own, under] = [at(frame, x, y, 'hand'), at(frame, x, y)]
      expect(Math.hypot(own.x - under.x, own.y - under.y)).toBeLessThan(1e-9)
    }
  })

  test('fused with what goes as one piece: scaled and drawn out with it, too', () => {
    const puppet = run(armPuppet(), bindAttached, { parts: ['hand'], to: 'sleeve', how: 'fused' })
    const frame = posePuppet(puppet, { 'part/sleeve/scaleX': 1.5, 'part/sleeve/scaleY': 0.5, 'part/sleeve/angle': 20 })
    for (const [x, y] of [
      [300, 90],
      [338, 110],
    ] as const) {
      const [own, under] = [at(frame, x, y, 'hand'), at(frame, x, y)]
      expect(Math.hypot(own.x - under.x, own.y - under.y)).toBeLessThan(1e-6)
    }
  })

  test('nothing hangs on itself', () => {
    const puppet = run(armPuppet(), bindAttached, { parts: ['hand'], to: 'sleeve', how: 'carried' })
    expect(() => run(puppet, bindAttached, { parts: ['sleeve'], to: 'hand', how: 'fused' })).toThrow('would hang on itself')
    expect(() => run(puppet, bindAttached, { parts: [puppet.root], to: 'hand', how: 'fused' })).toThrow('which is in it')
  })
})
