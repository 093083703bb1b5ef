/** Strides: what stands does not slide, knees do not flip, loops close, and walking begins and ends in whole steps. */
import { describe, expect, test } from 'vitest'
import { newClip } from '../clips/new'
import type { Clip } from '../clips/records'
import { legFrom, strideFor, swingFrom, withGait } from '../motions/strideOf'
import { addBone } from '../bones/commands'
import type { Bone } from '../bones/records'
import { momentsOfClip } from '../playing/moments'
import { MotionRun } from '../playing/motionRun'
import { run } from '../puppet/edit'
import { evaluate, makeFrame } from '../puppet/evaluate'
import type { Frame } from '../puppet/frame'
import { compile } from '../puppet/compile'
import { newPuppet } from '../puppet/new'
import type { Puppet } from '../puppet/schema'
import { nth, sure } from '../kernel/sure'
import { addClip } from '../clips/commands'
import { addControl } from '../controls/commands'
import { newControl } from '../controls/new'
import type { Tie } from '../controls/records'
import { setKeys } from '../clips/keyCommands'
import { addStride, deleteStride, setStride, strideOf } from './commands'
import { strideSpeed } from './channels'
import { gaitOf, GAITS, gaitsFor, phasesOf, type Gait } from './gaits'
import { HANGING, person, SPREAD } from '../test/people'
import type { Stride } from './records'
import { groundAt, rollAt } from './course'

interface Body {
  readonly legs: number
  readonly thigh?: number
  readonly shin?: number
  /** How far hips, knees and feet are apart and aside, px. */
  readonly spread?: number
  readonly knee?: number
  readonly bones?: 1 | 2 | 3
  readonly hasFeet?: boolean
}

/** A body that looks to the right, on legs that hang from it. */
function walker({ legs, thigh = 100, shin = 100, spread = 40, knee = 0, bones = 2, hasFeet = true }: Body): Puppet {
  let puppet = run(newPuppet('walker', 'Walker'), addBone, {
    id: 'body',
    name: 'Body',
    parent: null,
    start: { x: 400, y: 400 },
    end: { x: 500, y: 400 },
  })
  puppet = run(puppet, addBone, { id: 'head', name: 'Head', parent: 'body', start: { x: 620, y: 380 }, end: { x: 690, y: 380 } })
  for (let k = 0; k < legs; k++) {
    const x = 500 - spread * Math.floor(k / 2) + (k % 2) * 6
    const name = `leg ${k + 1} ${k % 2 === 0 ? 'left' : 'right'}`
    const spots = [
      { x, y: 400 },
      { x: x + knee, y: 400 + thigh },
      { x, y: 400 + thigh + shin },
      { x: x + 4, y: 440 + thigh + shin },
    ].slice(0, bones + 1)
    if (bones === 1) spots[1] = { x, y: 400 + thigh + shin }
    spots.slice(1).forEach((end, b) => {
      const id = `leg-${k}-${b}`
      puppet = run(puppet, addBone, {
        id,
        name: `${name} ${b}`,
        parent: b === 0 ? 'body' : `leg-${k}-${b - 1}`,
        start: sure(spots[b]),
        end,
      })
    })
    const ankle = nth(spots, -1)
    if (hasFeet && bones > 1)
      puppet = run(puppet, addBone, {
        ...{ id: `foot-${k}`, name: `Foot ${name}`, parent: `leg-${k}-${bones - 1}` },
        ...{ start: ankle, end: { x: ankle.x + 30, y: ankle.y + 12 } },
      })
  }
  return puppet
}

function walking(puppet: Puppet, gait: Gait, given: Partial<Stride> = {}): Puppet {
  const stride = withGait(puppet, strideFor(puppet, 'stride', 'Walk'), gait)
  return run(puppet, addStride, { stride: { ...stride, speed: 1, ...given } })
}

const CLIP: Clip = newClip('clip', 'Clip', { length: 6 })

/** Frames of a puppet that walks, by times in seconds. */
const walkOf = (puppet: Puppet): ((time: number) => Frame) => {
  const at = momentsOfClip(run(puppet, addClip, { clip: CLIP }), CLIP)
  return (time) => at(time).frame
}

/** Where a spot at rest is with a bone. */
function spotOn(frame: Frame, bone: string, x: number, y: number): { x: number; y: number } {
  const k = 6 * sure(frame.rig.bones.index.get(bone))
  const m = frame.bones
  return { x: nth(m, k) * x + nth(m, k + 2) * y + nth(m, k + 4), y: nth(m, k + 1) * x + nth(m, k + 3) * y + nth(m, k + 5) }
}

/**
 * The farthest that what stands on the ground slides from one frame to the next, px: of each foot, while it is in the midst of its stance,
 * the heel while toes are up, and else the ball.
 */
function slide(puppet: Puppet, seconds = 1.5, axis: 'x' | 'both' = 'both'): number {
  const at = walkOf(puppet)
  const { rig } = at(0)
  const table = nth(rig.strides.list, 0)
  const stride = nth(puppet.strides, 0)
  let worst = 0
  const sign = Math.sign(stride.speed)
  const phaseAt = (time: number, leg: number): number => {
    const p = time * stride.tempo - nth(stride.legs, leg).at
    return p - Math.floor(p)
  }
  let before = at(0)
  for (let f = 0; f < seconds * 60; f++) {
    const now = at((f + 1) / 60)
    table.legs.forEach((leg, k) => {
      const [p, q] = [phaseAt(f / 60, k), phaseAt((f + 1) / 60, k)]
      if (!leg.touches || p >= stride.duty || q >= stride.duty || q < p) return
      const bone = nth(rig.bones.ids, leg.foot >= 0 ? leg.foot : nth(leg.bones, -1))
      const rolls = [p, q].map((one) => sign * rollAt(one, stride.duty, true))
      for (const [x, isOn] of [
        [leg.heelX, rolls.every((roll) => roll >= 0)],
        [leg.ballX, rolls.every((roll) => roll <= 0)],
      ] as const) {
        if (!isOn) continue
        const [a, b] = [spotOn(before, bone, x, leg.soleY), spotOn(now, bone, x, leg.soleY)]
        const gone = stride.travels ? 0 : (table.way * table.length * stride.tempo) / 60
        worst = Math.max(worst, Math.hypot(b.x - a.x + gone, axis === 'x' ? 0 : b.y - a.y))
      }
    })
    before = now
  }
  return worst
}

describe('feet that stand', () => {
  test.each([1, 2, 4, 6, 8])('do not slide on %i legs, on the spot and along the ground', (legs) => {
    for (const gait of gaitsFor(legs))
      for (const travels of [false, true])
        expect(slide(walking(walker({ legs, spread: 70 }), gait, { travels })), gait.name).toBeLessThan(1)
  })

  test('do not slide on legs of three bones, on tips, and with knees drawn bent', () => {
    for (const body of [{ bones: 3 }, { hasFeet: false }, { knee: 30 }, { knee: -30 }] as const)
      expect(slide(walking(walker({ legs: 2, ...body }), gaitOf('walk'), { travels: true }))).toBeLessThan(1)
  })

  test('keep their place to the side on legs of one bone', () => {
    const puppet = walking(walker({ legs: 2, bones: 1 }), gaitOf('walk'), { travels: true, bob: 0 })
    expect(slide(puppet, 1.5, 'x')).toBeLessThan(1)
  })

  test('roll no farther than their limits let them, and still stand', () => {
    let puppet = walker({ legs: 2 })
    puppet = {
      ...puppet,
      bones: Object.fromEntries(
        Object.entries(puppet.bones).map(([id, b]) => [id, id.startsWith('foot') ? { ...b, limits: { min: -8, max: 8 } } : b]),
      ),
    }
    expect(slide(walking(puppet, gaitOf('walk'), { travels: true }))).toBeLessThan(1)
  })
})

test('knees never flip, in a thousand proportions', () => {
  let seed = 1
  const random = (from: number, to: number): number => {
    seed = (seed * 48271) % 2147483647
    return from + ((to - from) * seed) / 2147483647
  }
  for (let n = 0; n < 1000; n++) {
    const knee = random(-25, 25)
    const puppet = walking(walker({ legs: 2, thigh: random(40, 160), shin: random(40, 160), knee }), nth(gaitsFor(2), n % 5), {
      length: random(20, 400),
      lift: random(0, 120),
      duty: random(0.25, 0.8),
    })
    const rig = compile(puppet)
    const frame = makeFrame(rig)
    const motion = new MotionRun(rig, () => undefined)
    const table = nth(rig.strides.list, 0)
    for (let k = 0; k < 8; k++) {
      evaluate(rig, rig.restPose, frame, { time: null, simulation: motion.at(k / 8 / nth(puppet.strides, 0).tempo) })
      for (const leg of table.legs) {
        const [a, b] = [nth(leg.bones, 0), nth(leg.bones, 1)]
        const bend = frame.skeleton.angle[b] ?? 0
        expect(bend).toBeGreaterThanOrEqual(leg.kneeMin - 1e-6)
        expect(bend).toBeLessThanOrEqual(leg.kneeMax + 1e-6)
        expect(Number.isFinite(frame.skeleton.angle[a])).toBe(true)
        // Seen on the canvas, too, the shin never passes the line of the thigh.
        const [thigh, shin] = [a, b].map((one) => sure(puppet.bones[nth(rig.bones.ids, one)])) as [Bone, Bone]
        const hip = spotOn(frame, thigh.id, thigh.start.x, thigh.start.y)
        const knee = spotOn(frame, shin.id, shin.start.x, shin.start.y)
        const ankle = spotOn(frame, shin.id, shin.end.x, shin.end.y)
        const passed = (knee.x - hip.x) * (ankle.y - knee.y) - (knee.y - hip.y) * (ankle.x - knee.x)
        expect(-leg.knee * passed).toBeGreaterThan(-1)
      }
    }
  }
})

test('a loop of whole strides closes exactly, on the spot and apart from its way', () => {
  for (const gait of GAITS.filter(({ legs }) => legs > 0)) {
    const puppet = walking(walker({ legs: gait.legs }), gait, { tempo: 1 })
    const at = walkOf(puppet)
    const [first, last] = [Float64Array.from(at(0).bones), Float64Array.from(at(1).bones)]
    first.forEach((value, k) => expect(last[k], `${gait.id} ${k}`).toBeCloseTo(value, 4))
  }
})

/** A clip in which the pace is keyed. */
function paced(puppet: Puppet, keys: readonly (readonly [number, number])[]): (time: number) => Frame {
  let acted = run(puppet, addClip, { clip: CLIP })
  acted = run(acted, setKeys, {
    ...{ clip: 'clip', layer: 'clip-base' },
    keys: keys.map(([time, value]) => ({ channel: strideSpeed('stride'), time, value, way: 'stepped' as const })),
  })
  const at = momentsOfClip(acted, nth(acted.clips, -1))
  return (time) => at(time).frame
}

describe('starting and stopping', () => {
  const puppet = walking(walker({ legs: 2 }), gaitOf('walk'), { speed: 0, travels: true })
  const at = paced(puppet, [
    [0, 0],
    [1, 1],
    [3.3, 0],
  ])

  test('begins from standing, and ends standing as it is drawn, some whole steps on', () => {
    const still = Float64Array.from(at(0).bones)
    expect([...at(0.9).bones]).toEqual([...still])
    const gone = spotOn(at(5.9), 'body', 400, 400).x - 400
    expect(gone).toBeGreaterThan(200)
    for (const foot of ['foot-0', 'foot-1']) {
      const { start } = sure(puppet.bones[foot])
      const there = spotOn(at(5.9), foot, start.x, start.y)
      expect(there.x).toBeCloseTo(start.x + gone, 1)
      expect(there.y).toBeCloseTo(start.y, 1)
    }
  })

  test('a foot is either at its place or in the air: what is on the ground does not slide meanwhile', () => {
    const table = nth(at(0).rig.strides.list, 0)
    let worst = 0
    for (let f = 0; f < 5.9 * 60; f++) {
      for (const leg of table.legs) {
        const bone = nth(at(0).rig.bones.ids, leg.foot)
        const low = (time: number) => [leg.heelX, leg.ballX].map((x) => spotOn(at(time), bone, x, leg.soleY))
        const [a, b] = [low(f / 60), low((f + 1) / 60)]
        const isDown = [...a, ...b].some(
          ({ y }, k, all) => Math.abs(y - leg.soleY) < 0.02 && Math.abs(nth(all, (k + 2) % 4).y - leg.soleY) < 0.02,
        )
        if (!isDown) continue
        worst = Math.max(worst, Math.min(...a.map((spot, k) => Math.hypot(nth(b, k).x - spot.x, nth(b, k).y - spot.y))))
      }
    }
    expect(worst).toBeLessThan(1)
  })

  test('moments are the same in whatever order they are asked for', () => {
    const forwards = [1.2, 2.7, 4.1].map((time) => [...at(time).bones])
    const other = paced(puppet, [
      [0, 0],
      [1, 1],
      [3.3, 0],
    ])
    const backwards = [4.1, 2.7, 1.2].map((time) => [...other(time).bones]).reverse()
    expect(backwards).toEqual(forwards)
  })

  test('it walks backwards at a pace below 0', () => {
    const back = paced(puppet, [[0, -0.8]])
    expect(spotOn(back(3), 'body', 400, 400).x).toBeLessThan(200)
    expect(slide(walking(walker({ legs: 2 }), gaitOf('walk'), { travels: true, speed: -1 }))).toBeLessThan(1)
  })
})

test('on uneven ground feet stand on it, and the body follows', () => {
  const ground = [
    { x: 0, y: 612 },
    { x: 700, y: 612 },
    { x: 900, y: 560 },
    { x: 3000, y: 560 },
  ]
  const puppet = walking(walker({ legs: 2 }), gaitOf('walk'), { travels: true, ground })
  expect(slide(puppet, 5)).toBeLessThan(1)
  const at = walkOf(puppet)
  const high = spotOn(at(5.5), 'body', 400, 400).y - spotOn(at(0.5), 'body', 400, 400).y
  expect(high).toBeLessThan(-40)
  expect(groundAt(Float64Array.from([0, 10, 10, 20]), 5)).toBe(15)
  expect(groundAt(Float64Array.from([0, 10, 10, 20]), 50)).toBe(20)
})

test('wings beat beside the body', () => {
  const puppet = walking(walker({ legs: 2 }), gaitOf('walk'))
  const flying = run(puppet, setStride, {
    id: 'stride',
    legs: nth(puppet.strides, 0).legs.map((leg) => ({ ...leg, touches: false })),
    lift: 40,
  })
  const at = walkOf(flying)
  const heights = Array.from({ length: 12 }, (_, k) => spotOn(at(k / 12), 'leg-0-1', 500, 600).y)
  expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(30)
})

test('what has no legs slithers: a wave goes along it', () => {
  let puppet = run(newPuppet('eel', 'Eel'), addBone, {
    id: 'b0',
    name: 'Body',
    parent: null,
    start: { x: 300, y: 500 },
    end: { x: 360, y: 500 },
  })
  for (let k = 1; k < 6; k++)
    puppet = run(puppet, addBone, {
      id: `b${k}`,
      name: `Body ${k}`,
      parent: `b${k - 1}`,
      start: { x: 300 + 60 * k, y: 500 },
      end: { x: 360 + 60 * k, y: 500 },
    })
  const eel = walking(puppet, gaitOf('slither'), { tempo: 1 })
  expect(nth(nth(eel.strides, 0).swings, 0).bones).toHaveLength(6)
  const at = walkOf(eel)
  const bends = [0, 0.25, 0.5].map((time) => [...at(time).skeleton.angle].map((a) => Math.round(a)))
  expect(nth(bends, 0)).toEqual(nth(bends, 2).map((a) => -a || 0))
  expect(nth(bends, 0)).not.toEqual(nth(bends, 1))
})

/** Bones by their names: what each hangs from, where it begins and ends. */
type Figure = Readonly<Record<string, readonly [parent: string | null, x0: number, y0: number, x1: number, y1: number]>>

const hindLeg = (name: string, parent: string, x: number): Figure => ({
  [`${name} upper`]: [parent, x, 200, x - 14, 250],
  [`${name} lower`]: [`${name} upper`, x - 14, 250, x + 16, 292],
  [`${name} cannon`]: [`${name} lower`, x + 16, 292, x + 8, 330],
  [`${name} paw`]: [`${name} cannon`, x + 8, 330, x - 14, 338],
})
const frontLeg = (name: string, parent: string, x: number): Figure => ({
  [`${name} upper`]: [parent, x, 200, x + 8, 262],
  [`${name} lower`]: [`${name} upper`, x + 8, 262, x, 326],
  [`${name} paw`]: [`${name} lower`, x, 326, x - 20, 338],
})

/** A hound that looks to the left, on hind legs of three bones. */
const HOUND: Figure = {
  pelvis: [null, 320, 180, 240, 175],
  chest: ['pelvis', 240, 175, 140, 175],
  neck: ['chest', 140, 175, 110, 130],
  head: ['neck', 110, 130, 50, 130],
  tail: ['pelvis', 320, 180, 370, 140],
  ...frontLeg('front leg near', 'chest', 150),
  ...frontLeg('front leg far', 'chest', 170),
  ...hindLeg('hind leg near', 'pelvis', 290),
  ...hindLeg('hind leg far', 'pelvis', 310),
}

function figure(bones: Figure): Puppet {
  return Object.entries(bones).reduce(
    (puppet, [name, [parent, x0, y0, x1, y1]]) =>
      run(puppet, addBone, {
        ...{ id: name.replaceAll(' ', '-'), name, parent: parent?.replaceAll(' ', '-') ?? null },
        ...{ start: { x: x0, y: y0 }, end: { x: x1, y: y1 } },
      }),
    newPuppet('stranger', 'Stranger', { width: 420, height: 420 }),
  )
}

test('arms swing against each other, the head stays level', () => {
  const puppet = walking(person(HANGING), gaitOf('walk'), { tempo: 1 })
  const { swings, head } = nth(puppet.strides, 0)
  const at = walkOf(puppet)
  const turnOf = (bone: string, time: number): number => nth(at(time).skeleton.turn, sure(at(0).rig.bones.index.get(bone)))
  const [left, right] = swings.map(({ bones }) => nth(bones, 0))
  const ways = [0, 0.5].map((time) => [turnOf(sure(left), time), turnOf(sure(right), time)])
  expect(Math.abs(nth(nth(ways, 0), 0) - nth(nth(ways, 1), 0))).toBeGreaterThan(5)
  expect(nth(nth(ways, 0), 0)).toBeCloseTo(-nth(nth(ways, 1), 1), 0)
  const swayed = [0, 0.25, 0.5, 0.75].map((time) => Math.abs(turnOf(sure(head), time)))
  expect(Math.max(...swayed)).toBeLessThan(1.5)
})

describe('strangers', () => {
  test('a hound is found with its gaits, and goes to where it looks', () => {
    const hound = figure(HOUND)
    const { legs, hips, ways, swings } = strideFor(hound, 'stride', 'Walk')
    expect(legs.map(({ name, bones, foot }) => [name, bones.length, foot])).toEqual([
      ['front leg near upper', 2, 'front-leg-near-paw'],
      ['front leg far upper', 2, 'front-leg-far-paw'],
      ['hind leg near upper', 3, 'hind-leg-near-paw'],
      ['hind leg far upper', 3, 'hind-leg-far-paw'],
    ])
    expect([hips, ways['front']]).toEqual(['pelvis', -1])
    expect(swings.map(({ name }) => name)).toEqual(['tail', 'neck'])
    for (const gait of gaitsFor(4)) expect(slide(walking(hound, gait, { travels: true })), gait.name).toBeLessThan(1)
  })

  test.each([HANGING, SPREAD])('a person walks, drawn with arms and legs as they come', (drawn) => {
    const puppet = person(drawn)
    for (const gait of gaitsFor(2)) expect(slide(walking(puppet, gait), 1.5, 'x'), gait.name).toBeLessThan(1)
  })
})

test('legs and what swings are told by hand: a bone with what hangs from it, or selected ones', () => {
  const puppet = walker({ legs: 2 })
  expect(legFrom(puppet, ['leg-0-0'])).toMatchObject({ bones: ['leg-0-0', 'leg-0-1'], foot: 'foot-0', toe: null })
  expect(legFrom(puppet, ['leg-0-1', 'leg-0-0'])).toMatchObject({ bones: ['leg-0-0', 'leg-0-1'], foot: null })
  expect(swingFrom(puppet, ['head'])).toMatchObject({ name: 'Head', bones: ['head'] })
})

test('a control may lead the pace, also along a clip that does not key it', () => {
  let puppet = walking(walker({ legs: 2 }), gaitOf('walk'), { speed: 0, travels: true })
  const tie: Tie = { channel: strideSpeed('stride'), axis: 'value', from: [0, 1], to: [0, 1], curve: null }
  puppet = run(puppet, addControl, { control: { ...newControl('pace', 'Pace', 'slider'), ties: [tie] } })
  let acted = run(puppet, addClip, { clip: CLIP })
  acted = run(acted, setKeys, {
    clip: 'clip',
    layer: 'clip-base',
    keys: [{ channel: 'control/pace/value', time: 0, value: 1, way: 'stepped' }],
  })
  const at = momentsOfClip(acted, nth(acted.clips, -1))
  expect(spotOn(at(3).frame, 'body', 400, 400).x).toBeGreaterThan(500)
})

test('gaits say when each leg comes down, also for more legs than they know', () => {
  expect(gaitsFor(2).map(({ id }) => id)).toEqual(['walk', 'sneak', 'march', 'run', 'skip'])
  expect(gaitsFor(5).every(({ legs }) => legs === 4)).toBe(true)
  expect(phasesOf(gaitOf('walk'), 3)).toEqual([0, 0.5, 0.5])
  expect(phasesOf(gaitOf('four-and-four'), 8)).toHaveLength(8)
})

test('a bone that goes leaves the leg, and commands refuse what is not there', () => {
  const puppet = walking(walker({ legs: 2 }), gaitOf('walk'))
  expect(() => run(puppet, setStride, { id: 'stride', hips: 'nobody' })).toThrow('no bone "nobody"')
  expect(() =>
    run(puppet, setStride, {
      id: 'stride',
      ground: [
        { x: 5, y: 0 },
        { x: 1, y: 0 },
      ],
    }),
  ).toThrow('from the left to the right')
  expect(() => run(puppet, deleteStride, { id: 'other' })).toThrow('no stride "other"')
  expect(run(puppet, deleteStride, { id: 'stride' }).strides).toEqual([])
  expect(strideOf(puppet, 'stride').legs).toHaveLength(2)
})
