import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { addBone, setLimits } from '../bones/commands'
import { addClip } from '../clips/commands'
import { newKey } from '../clips/edits'
import type { Clip, Key } from '../clips/records'
import { newClip, newLayer } from '../clips/new'
import { ratesOf, STEP } from '../maths/solve/oscillator'
import { clipSimulation, MotionRun } from '../playing/motionRun'
import { compile } from '../puppet/compile'
import { run } from '../puppet/edit'
import { evaluate, makeFrame } from '../puppet/evaluate'
import { inspectRig } from '../reports/report'
import { bonePoint } from '../puppet/probe'
import type { Rig } from '../puppet/rig'
import type { Puppet } from '../puppet/schema'
import { armPuppet } from '../test/puppets'
import { often } from '../test/often'
import { addCollider, addSprings, deleteSprings, setSprings, setWind } from './commands'
import { SPRING_CHARACTERS, characterOf } from './characters'
import { newCapsule, newSpringGroup } from './new'
import { setBoneNature } from '../skeleton/lines'
import { softly } from './motion'
import type { SpringGroup } from './records'
import { gustAt } from './wind'

/** A body with a plait of three bones that hangs from it. */
function plait(given: Partial<SpringGroup> = {}, bones = ['p1', 'p2', 'p3']): Puppet {
  let puppet = armPuppet()
  const at = (k: number): { x: number; y: number } => ({ x: 100, y: 110 + 30 * k })
  for (const k of [1, 2, 3])
    puppet = run(puppet, addBone, {
      id: `p${k}`,
      name: `Plait ${k}`,
      parent: k === 1 ? 'upper' : `p${k - 1}`,
      start: at(k),
      end: at(k + 1),
    })
  const plain = { gravity: 0, wind: 0, drag: 0, root: 1, girth: 0, stretch: 0 }
  return run(puppet, addSprings, { spring: { ...newSpringGroup('hair', 'Hair', bones, characterOf('hair')), ...plain, ...given } })
}

/** A run in which the body is moved sideways, turned, or both, by functions of time. */
const moved = (rig: Rig, x: (t: number) => number, turn: (t: number) => number = () => 0): MotionRun =>
  new MotionRun(rig, (time, pose) => {
    pose[0] = turn(time)
    pose[1] = x(time)
  })

const jump = (t: number): number => (t <= 0 ? 0 : 50)

describe('a spring', () => {
  test('after a jump of its body swings as the closed form of a damped swing says', () => {
    const rig = compile(plait({ tempo: 2, settle: 1, throw: 1 }, ['p1']))
    const hair = moved(rig, jump)
    const { decay } = ratesOf(2, 1)
    const w = 4 * Math.PI
    // The jump takes one step: its speed is there at once and gone after it.
    const free = (t: number): number => (50 / STEP) * ((Math.exp(-decay * t) * Math.sin(w * t)) / w)
    for (const t of [1, 3, 40, 120, 240, 500]) {
      const last = t === 1 ? 0 : free((t - 1) * STEP)
      expect(hair.at(t * STEP).springs[0]).toBeCloseTo(-free(t * STEP) + last, 6)
    }
    expect(Math.abs(hair.at(1).springs[0]!)).toBeLessThan(0.03 * 50)
  })

  test('stays where it is while its body stays, or goes evenly', () => {
    const rig = compile(plait())
    const still = moved(rig, () => 20)
    const even = moved(rig, (t) => 30 * t)
    expect([...still.at(2).springs].every((v) => v === 0)).toBe(true)
    for (const v of even.at(20).springs) expect(v).toBeCloseTo(0, 6)
    // With drag it lags behind by a constant.
    const airy = moved(compile(plait({ drag: 1 }, ['p1'])), (t) => 30 * t)
    const { decay, stiffness } = ratesOf(2.4, 0.9)
    expect(airy.at(20).springs[0]).toBeCloseTo((-2 * decay * 30) / stiffness, 6)
  })

  test('shows as much of its motion as its throw and its amount say', () => {
    const at = (given: Partial<SpringGroup>): number => moved(compile(plait(given, ['p1'])), jump).at(0.1).springs[0]!
    expect(at({ throw: 2 })).toBeCloseTo(2 * at({ throw: 1 }), 9)
    const rig = compile(plait({ amount: 0 }))
    const [frame, pose] = [makeFrame(rig), rig.restPose.slice()]
    const springs = moved(rig, jump).at(0.1).springs
    const swung = evaluate(rig, pose, frame, { time: null, simulation: { speeds: null, springs } }).bones.slice()
    expect(swung).toEqual(evaluate(rig, pose, frame).bones)
  })

  test('turns its bone towards its end, and what hangs from it goes along', () => {
    const rig = compile(plait({}, ['p2']))
    const springs = moved(rig, jump).at(0.05).springs
    const still = evaluate(rig, rig.restPose, makeFrame(rig))
    const swung = evaluate(rig, rig.restPose, makeFrame(rig), { time: null, simulation: { speeds: null, springs } })
    const b = rig.bones.index.get('p2')!
    expect(bonePoint(swung, b, 0)).toEqual(bonePoint(still, b, 0))
    expect(bonePoint(swung, b, 1).x).toBeLessThan(bonePoint(still, b, 1).x - 5)
    const tip = rig.bones.index.get('p3')!
    expect(bonePoint(swung, tip, 0).x).toBeCloseTo(bonePoint(swung, b, 1).x, 9)
    expect(bonePoint(swung, tip, 1).x).toBeLessThan(bonePoint(still, tip, 1).x - 10)
  })

  test('is driven by turns as by shifts, and passes its motion on along the chain', () => {
    const turned = moved(
      compile(plait()),
      () => 0,
      (t) => (t <= 0 ? 0 : 40),
    )
    expect(Math.abs(turned.at(0.05).springs[0]!)).toBeGreaterThan(3)
    const chain = moved(compile(plait({ root: 0.2, bend: 2 })), jump).at(0.05).springs
    const ends = [0, 1, 2].map((s) => Math.hypot(chain[2 * s]!, chain[2 * s + 1]!))
    expect(ends[1]).toBeGreaterThan(ends[0]!)
    expect(ends[2]).toBeGreaterThan(ends[1]!)
  })

  test('hangs as drawn at rest, and down again where its body is turned; the wind lays it over', () => {
    const start = moved(compile(plait({ gravity: 1 }, ['p1'])), () => 0).at(0).springs
    expect([...start].every((v) => v === 0)).toBe(true)
    const turned = moved(
      compile(plait({ gravity: 1 }, ['p1'])),
      () => 0,
      () => 90,
    ).at(3).springs
    // Turned counter-clockwise the plait points to the right: it is pulled down.
    expect(turned[1]).toBeGreaterThan(2)
    const blown = compile(run(plait({ wind: 1 }), setWind, { wind: { direction: 0, strength: 1, gusts: 0, seed: 1 } }))
    expect(moved(blown, () => 0).at(0).springs[0]).toBeGreaterThan(2)
    expect(gustAt(3, 1.7)).toBe(gustAt(3, 1.7))
    expect(Math.abs(gustAt(3, 1.7))).toBeLessThanOrEqual(1)
  })

  test('comes softly to its limit, never beyond it', () => {
    expect(softly(10, 5, -40, 40)).toBe(15)
    for (const by of [20, 100, 400]) {
      expect(softly(10, by, -40, 40)).toBeGreaterThan(softly(10, by / 2, -40, 40))
      expect(softly(10, by, -40, 40)).toBeLessThanOrEqual(40)
    }
    expect(softly(40, 3, -40, 40)).toBe(40)
    let puppet = plait({ throw: 3 }, ['p1'])
    puppet = run(puppet, setLimits, { bone: 'p1', limits: { min: -10, max: 10 } })
    const rig = compile(puppet)
    const hair = moved(rig, (t) => 400 * Math.sin(9 * t))
    const frame = makeFrame(rig)
    const b = rig.bones.index.get('p1')!
    for (let k = 0; k < 200; k++) {
      evaluate(rig, rig.restPose, frame, { time: null, simulation: { speeds: null, springs: hair.at(k / 60).springs } })
      expect(Math.abs(frame.skeleton.angle[b]!)).toBeLessThanOrEqual(10)
    }
  })

  test('draws its bone out where that is wanted', () => {
    const rig = compile(run(plait({ stretch: 1 }, ['p1']), setBoneNature, { bones: ['p1'], lengths: { max: 2 } }))
    const hair = new MotionRun(rig, (time, pose) => (pose[2] = time <= 0 ? 0 : -60))
    const frame = makeFrame(rig)
    evaluate(rig, rig.restPose, frame, { time: null, simulation: { speeds: null, springs: hair.at(0.03).springs } })
    expect(frame.skeleton.length[rig.bones.index.get('p1')!]).toBeGreaterThan(1.1)
  })
})

describe('colliders', () => {
  test('keep the ends of bones outside, however hard they are thrown', () => {
    let puppet = plait({ throw: 2 })
    // A body that stands upright beside the plait.
    puppet = run(puppet, addBone, { id: 'spine', name: 'Spine', parent: null, start: { x: 150, y: 230 }, end: { x: 150, y: 60 } })
    puppet = run(puppet, addCollider, { collider: newCapsule('body', 'Body', 'spine', 40) })
    const rig = compile(puppet)
    const hair = moved(rig, (t) => 120 * Math.sin(5 * t) - 120)
    const frame = makeFrame(rig)
    const pose = rig.restPose.slice()
    for (let k = 0; k < 300; k++) {
      pose[1] = 120 * Math.sin((5 * k) / 60) - 120
      evaluate(rig, pose, frame, { time: null, simulation: { speeds: null, springs: hair.at(k / 60).springs } })
      for (const id of ['p1', 'p2', 'p3']) {
        const { x } = bonePoint(frame, rig.bones.index.get(id)!, 1)
        expect(x).toBeLessThan(110 + 0.5)
      }
    }
  })

  test('leave alone what is drawn inside of them', () => {
    const inside = run(plait({}), addCollider, { collider: newCapsule('body', 'Body', 'upper', 400) })
    const [free, held] = [moved(compile(plait({})), () => 0).at(2).springs, moved(compile(inside), () => 0).at(2).springs]
    for (let k = 0; k < free.length; k++) expect(held[k]).toBeCloseTo(free[k]!, 1)
  })

  test('the ground holds what falls', () => {
    const puppet = run(plait({ gravity: 2, throw: 1 }), addCollider, { collider: { kind: 'ground', id: 'g', name: 'Ground', y: 240 } })
    const rig = compile(puppet)
    const fallen = new MotionRun(rig, (time, pose) => (pose[2] = time > 0 ? 25 : 0))
    const frame = makeFrame(rig)
    const pose = rig.restPose.slice()
    pose[2] = 25
    evaluate(rig, pose, frame, { time: null, simulation: { speeds: null, springs: fallen.at(1).springs } })
    expect(bonePoint(frame, rig.bones.index.get('p3')!, 1).y).toBeLessThan(241)
  })
})

describe('springs along a clip', () => {
  function acted(): Puppet {
    const layer = newLayer('base', 'Base')
    layer.tracks['bone/upper/angle'] = {
      keys: [newKey(0, 0), newKey(0.4, 60), newKey(1, -20), newKey(2, 0)],
      before: 'hold',
      after: 'hold',
    }
    return run(plait({ gravity: 0.5 }), addClip, { clip: newClip('clip', 'Clip', { length: 4, layers: [layer] }) })
  }

  const offsets = (rig: Rig, time: number): number[] => [...clipSimulation(rig, rig.puppet.clips[0]!, time)!.springs!]

  test('are the same to the last bit at common times of every frame rate, and after seeking in any order', () => {
    const known = new Map<number, number[]>()
    for (const rate of [12, 24, 30, 60, 25]) {
      const rig = compile(acted())
      for (let k = 0; k <= 2 * rate; k++) {
        // Moments that rates have in common.
        if ((240 * k) % rate !== 0) continue
        const step = (240 * k) / rate
        const now = offsets(rig, k / rate)
        expect(now).toEqual(known.get(step) ?? now)
        known.set(step, now)
      }
    }
    const rig = compile(acted())
    for (const step of [480, 20, 300, 40, 480, 0, 160]) expect(offsets(rig, step / 240)).toEqual(known.get(step))
  })

  test('of a clip that is changed are the same as of one that is simulated anew, whatever key was changed', () => {
    const rig = compile(acted())
    const keys = [newKey(0, 0), newKey(0.5, 30), newKey(1, -10), newKey(1.5, 20), newKey(2, 5), newKey(3, 0)]
    const clipOfKeys = (changed: readonly Key[]): Clip => {
      const layer = newLayer('base', 'Base')
      layer.tracks['bone/upper/angle'] = { keys: [...changed], before: 'hold', after: 'hold' }
      return newClip('clip', 'Clip', { length: 4, layers: [layer] })
    }
    const at = (of: Rig, clip: Clip, time: number): number[] => [...clipSimulation(of, clip, time)!.springs!]
    at(rig, clipOfKeys(keys), 4)
    keys.forEach((_, k) => {
      const changed = clipOfKeys(keys.map((key, n) => (n === k ? { ...key, value: key.value + 15 } : key)))
      for (const time of [0.4, 1.2, 3.7]) expect(at(rig, changed, time)).toEqual(at(compile(acted()), changed, time))
    })
  })

  test('between two steps go straight from one to the next', () => {
    const rig = compile(acted())
    const [a, b] = [offsets(rig, 100 * STEP), offsets(rig, 101 * STEP)]
    offsets(rig, 100.25 * STEP).forEach((v, k) => expect(v).toBeCloseTo(0.75 * a[k]! + 0.25 * b[k]!, 9))
  })
})

describe('groups', () => {
  test('take bones over from each other, and go when none is left', () => {
    let puppet = plait()
    puppet = run(puppet, addSprings, { spring: newSpringGroup('tip', 'Tip', ['p3'], characterOf('floppy')) })
    expect(puppet.springs.map(({ bones }) => bones)).toEqual([['p1', 'p2'], ['p3']])
    puppet = run(puppet, setSprings, { id: 'hair', bones: ['p1', 'p2', 'p3'], tempo: 3 })
    expect(puppet.springs).toMatchObject([{ id: 'hair', bones: ['p1', 'p2', 'p3'], tempo: 3 }])
    expect(run(puppet, deleteSprings, { id: 'hair' }).springs).toEqual([])
    expect(() => run(puppet, setSprings, { id: 'hair', bones: ['gone'] })).toThrow('no bone')
  })

  test('that are tuned make nothing anew but themselves', () => {
    const rig = compile(plait())
    const tuned = compile(run(rig.puppet, setSprings, { id: 'hair', tempo: 7, gravity: 1 }), rig)
    expect(tuned.springs).not.toBe(rig.springs)
    for (const table of ['slots', 'bones', 'parts', 'drawings', 'responses'] as const) expect(tuned[table]).toBe(rig[table])
    // How much of them shows at rest stands among the places of channels.
    expect(compile(run(rig.puppet, setSprings, { id: 'hair', amount: 0.5 }), rig).restPose).not.toEqual(rig.restPose)
  })

  test('that nothing drives are found, with the bone to leave out', () => {
    const fine = inspectRig(plait())
    expect(fine.filter(({ code }) => code === 'spring-undriven')).toEqual([])
    const found = inspectRig(plait({}, ['upper', 'p1'])).filter(({ code }) => code === 'spring-undriven')
    expect(found).toMatchObject([{ target: { id: 'upper' }, message: expect.stringContaining('leave Upper out') as string }])
  })

  test('have at least ten characters to begin with, all different', () => {
    expect(SPRING_CHARACTERS.length).toBeGreaterThanOrEqual(10)
    expect(new Set(SPRING_CHARACTERS.map(({ nature }) => JSON.stringify(nature))).size).toBe(SPRING_CHARACTERS.length)
  })
})

test('ten thousand settings under drives of ten thousand degrees a second stay numbers', () => {
  const puppet = plait()
  fc.assert(
    fc.property(
      fc.record({
        throw: fc.double({ min: 0, max: 3, noNaN: true }),
        tempo: fc.double({ min: 0, max: 20, noNaN: true }),
        settle: fc.double({ min: 0.05, max: 30, noNaN: true }),
        root: fc.double({ min: 0, max: 1, noNaN: true }),
        bend: fc.double({ min: 0.2, max: 5, noNaN: true }),
        gravity: fc.double({ min: -2, max: 2, noNaN: true }),
        drag: fc.double({ min: 0, max: 1, noNaN: true }),
        stretch: fc.double({ min: 0, max: 1, noNaN: true }),
      }),
      fc.double({ min: 1, max: 60, noNaN: true }),
      (nature, rate) => {
        const rig = compile(run(puppet, setSprings, { id: 'hair', ...nature }))
        const hair = moved(
          rig,
          () => 0,
          (t) => (10_000 / rate) * Math.sin(rate * t),
        )
        const frame = makeFrame(rig)
        for (const time of [0.1, 0.2]) {
          evaluate(rig, rig.restPose, frame, { time: null, simulation: { speeds: null, springs: hair.at(time).springs } })
          expect(frame.bones.every(Number.isFinite)).toBe(true)
        }
      },
    ),
    { numRuns: often(150, 10_000) },
  )
})
