import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Change, Response } from './records'
import type { Puppet } from '../puppet/schema'
import { addControl, setControl } from '../controls/commands'
import { run } from '../puppet/edit'
import { addConstraint, addTarget } from '../constraints/commands'
import { setResponse } from './commands'
import { labOf } from '../maths/solve/oklab'
import { answered, answering, answeringArm, by, moved, ruler, seen, sliderInput, to, withResponses } from '../test/responding'
import { reachWith } from '../test/limbs'
import { compile } from '../puppet/compile'
import { EditError } from '../kernel/errors'
import { newControl } from '../controls/new'
import { newResponse } from './new'
import { forgetChoices, makeFrame } from '../puppet/evaluate'

const HAND_X = 'part/hand/x'

describe('rulers', () => {
  const arm = withResponses(
    answeringArm(),
    ruler('rise', 'a', { '-1': [by(HAND_X, -8)], '0.5': [by(HAND_X, 10)], '1': [by(HAND_X, 40), by('part/hand/scaleX', 2)] }),
  )

  test('at every stop it is what was recorded; rest changes nothing; both sides are their own', () => {
    for (const [a, x] of [
      [-1, -8],
      [0, 0],
      [0.5, 10],
      [1, 40],
    ] as const)
      for (const between of ['even', 'smooth', 'curve'] as const) {
        const puppet = run(arm, setResponse, { response: { ...arm.responses[0]!, between } })
        expect(seen(answered(puppet, { a }), HAND_X)).toBeCloseTo(x, 9)
      }
    expect(seen(answered(arm, { a: 0.75 }), HAND_X)).toBeCloseTo(25, 9)
    expect(seen(answered(arm, { a: -0.5 }), HAND_X)).toBeCloseTo(-4, 9)
    expect(seen(answered(arm, { a: 0.75 }), 'part/hand/scaleX')).toBeCloseTo(1.5, 9)
  })

  test('beyond the last stop it holds or goes on; past rest, where nothing was recorded, nothing happens', () => {
    const half = (more: Partial<Response>): Puppet => withResponses(answeringArm(), ruler('half', 'a', { '0.5': [by(HAND_X, 10)] }, more))
    expect(seen(answered(half({}), { a: 1 }), HAND_X)).toBeCloseTo(10, 9)
    expect(seen(answered(half({ beyond: 'continue' }), { a: 1 }), HAND_X)).toBeCloseTo(20, 9)
    expect(seen(answered(half({ beyond: 'continue' }), { a: -1 }), HAND_X)).toBe(0)
  })

  test('muted and scaled changes count as they say', () => {
    const change = by(HAND_X, 20)
    const puppet = withResponses(
      answeringArm(),
      ruler('r', 'a', {
        '1': [
          { ...change, scale: 0.5 },
          { ...by('part/hand/y', 7), muted: true },
        ],
      }),
    )
    const frame = answered(puppet, { a: 1 })
    expect([seen(frame, HAND_X), seen(frame, 'part/hand/y')]).toEqual([10, 0])
  })
})

describe('sums', () => {
  test('responses add up, scales multiply, in whatever order they are listed', () => {
    const list = [
      ruler('one', 'a', { '1': [by(HAND_X, 5), by('part/hand/scaleX', 2), by('bone/lower/angle', 20)] }),
      ruler('two', 'b', { '1': [by(HAND_X, 7), by('part/hand/scaleX', 3), by('bone/lower/angle', 15)] }),
      ruler('three', 'a', { '1': [by(HAND_X, 11)] }),
    ]
    fc.assert(
      fc.property(fc.shuffledSubarray(list, { minLength: 3 }), fc.double({ min: 0, max: 1, noNaN: true }), (order, b) => {
        const frame = answered(withResponses(answeringArm(), ...order), { a: 1, b })
        expect(seen(frame, HAND_X)).toBeCloseTo(16 + 7 * b, 9)
        expect(seen(frame, 'part/hand/scaleX')).toBeCloseTo(2 * (1 + 2 * b), 9)
        expect(frame.skeleton.angle[frame.rig.bones.index.get('lower')!]).toBeCloseTo(20 + 15 * b, 9)
      }),
      { seed: 5, numRuns: 40 },
    )
  })

  test('what the person poses by hand is added on top', () => {
    const puppet = withResponses(answeringArm(), ruler('one', 'a', { '1': [by(HAND_X, 5)] }))
    expect(seen(answered(puppet, { a: 1, [HAND_X]: 3 }), HAND_X)).toBe(8)
  })

  test('a recorded opacity starts from nothing; a hidden part is shown', () => {
    let puppet = answeringArm()
    puppet = { ...puppet, parts: { ...puppet.parts, hand: { ...puppet.parts['hand']!, opacity: 0, visible: false } } }
    puppet = withResponses(puppet, ruler('show', 'a', { '1': [by('part/hand/opacity', 1), to('part/hand/shown', 1)] }))
    const hand = compile(puppet).parts.index.get('hand')!
    expect(answered(puppet, { a: 0 }).opacity[hand]).toBe(0)
    expect(answered(puppet, { a: 0.6 }).opacity[hand]).toBeCloseTo(0.6, 9)
    expect(answered(puppet, { a: 1 }).opacity[hand]).toBe(1)
    expect([0, 0.4, 1].map((a) => answered(puppet, { a }).shown[hand])).toEqual([0, 0, 1])
  })

  test('colours go by OKLab and are as recorded at their stop', () => {
    const paint: Change = {
      ...{ kind: 'paint', muted: false, scale: 1, part: 'hand', drawing: 'd-hand', shape: 0 },
      ...{ of: 'ink', stop: null, to: '#1e7a6b' },
    }
    const puppet = withResponses(answeringArm(), ruler('blush', 'a', { '1': [paint] }))
    const hex = (a: number): string =>
      [...answered(puppet, { a }).paintOverrides.slice(0, 3)]
        .map((v) =>
          Math.round(255 * v)
            .toString(16)
            .padStart(2, '0'),
        )
        .join('')
    expect(hex(0)).toBe('aa5533')
    expect(hex(1)).toBe('1e7a6b')
    const [from, half, end] = ['#aa5533', `#${hex(0.5)}`, '#1e7a6b'].map(labOf)
    half!.forEach((v, k) => expect(v).toBeCloseTo((from![k]! + end![k]!) / 2, 2))
  })
})

describe('choices', () => {
  const shown = 'part/hand/shown'
  const switching = (more: Partial<Response> = {}): Puppet =>
    withResponses(answeringArm(), ruler('switch', 'a', { '1': [to(shown, 0)] }, more))

  test('on a pad they switch at their place between rest and a stop, halfway between two stops', () => {
    const sides = [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ]
    const pad = (switchAt: number): Puppet =>
      withResponses(answeringArm(), {
        ...newResponse('pad', 'Pad', 'pad', [sliderInput('a'), sliderInput('b')]),
        ...{ switchAt, stops: sides.map((at, k) => ({ id: `s${k}`, at: [...at], changes: k === 0 ? [to(shown, 0)] : [] })) },
      })
    for (const switchAt of [0.3, 0.5, 0.8])
      for (const a of [0.1, 0.25, 0.35, 0.45, 0.55, 0.75, 0.85, 1])
        if (Math.abs(a - switchAt) > 0.041)
          expect(seen(answered(pad(switchAt), { a }), shown), `${a} of ${switchAt}`).toBe(Number(a < switchAt))
    expect(seen(answered(pad(0.2), { a: 0.6, b: 0.4 }), shown)).toBe(0)
    expect(seen(answered(pad(0.2), { a: 0.4, b: 0.6 }), shown)).toBe(1)
  })

  test('they switch at their place, and stay a little while there is hardly more for the other', () => {
    const at = answering(switching())
    const value = (a: number): number => seen(at({ 'control/a/value': a }), shown)
    expect([0, 0.4, 0.51].map(value)).toEqual([1, 1, 1])
    expect([0.6, 0.49, 0.45].map(value)).toEqual([0, 0, 1])
  })

  test('without what was shown before, a pose shows one thing', () => {
    const rig = compile(switching())
    const frame = makeFrame(rig)
    forgetChoices(frame)
    expect(seen(answered(switching(), { a: 0.51 }), shown)).toBe(0)
    expect(seen(answered(switching({ switchAt: 0.8 }), { a: 0.7 }), shown)).toBe(1)
  })

  test('of several that choose the highest priority decides, and of equals the first', () => {
    const order = 'part/hand/order'
    const choose = (id: string, slider: string, value: number, priority: number): Response =>
      ruler(id, slider, { '1': [to(order, value)] }, { priority })
    const puppet = withResponses(answeringArm(), choose('low', 'a', -1, 0), choose('high', 'b', -2, 3), choose('also', 'c', -3, 3))
    expect(seen(answered(puppet, { a: 1 }), order)).toBe(-1)
    expect(seen(answered(puppet, { a: 1, b: 1 }), order)).toBe(-2)
    expect(seen(answered(puppet, { a: 1, b: 1, c: 1 }), order)).toBe(-2)
    expect(seen(answered(puppet, { a: 1, c: 1 }), order)).toBe(-3)
  })

  test('a part goes behind its sibling and back', () => {
    const puppet = withResponses(answeringArm(), ruler('behind', 'a', { '1': [to('part/hand/order', -1)] }))
    const painted = (a: number): string[] => {
      const frame = answered(puppet, { a })
      return frame.paint.flatMap((op) => (op.op === 'draw' ? [frame.rig.parts.ids[frame.rig.drawings[op.drawing]!.part]!] : []))
    }
    expect(painted(0)).toEqual(['sleeve', 'hand'])
    expect(painted(1)).toEqual(['hand', 'sleeve'])
  })
})

describe('pads', () => {
  const GRID = [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((x) => [x, y] as const)).filter(([x, y]) => x !== 0 || y !== 0)
  const pad = (valueOf: (x: number, y: number) => number, more: Partial<Response> = {}): Puppet =>
    withResponses(answeringArm(), {
      ...newResponse('turn', 'Turn', 'pad', [
        { kind: 'channel', channel: 'control/p/x' },
        { kind: 'channel', channel: 'control/p/y' },
      ]),
      stops: GRID.map(([x, y], k) => ({
        id: `s${k}`,
        at: [x, y],
        changes: [by(HAND_X, valueOf(x, y)), by('part/hand/scaleY', 1 + 0.3 * Math.abs(x))],
      })),
      ...more,
    })
  const value = (puppet: Puppet, x: number, y: number, channel = HAND_X): number =>
    seen(answered(puppet, { 'control/p/x': x, 'control/p/y': y }), channel)

  test('every stop is as recorded, and what is linear stays so between', () => {
    const wild = pad((x, y) => 7 * x * x - 3 * y + 20 * x * y)
    for (const [x, y] of GRID) expect(value(wild, x, y)).toBeCloseTo(7 * x * x - 3 * y + 20 * x * y, 4)
    expect(value(wild, 1, 0, 'part/hand/scaleY')).toBeCloseTo(1.3, 6)
    const flat = pad((x, y) => 10 * x + 4 * y)
    expect(value(flat, 0.3, -0.7)).toBeCloseTo(3 - 2.8, 2)
  })

  test('between stops nothing goes beyond their values unless asked', () => {
    const hat = pad((x, y) => (x === 1 && y === 1 ? 50 : 0))
    for (let k = 0; k < 60; k++) {
      const v = value(hat, Math.sin(k), Math.cos(1.7 * k))
      expect(v).toBeGreaterThanOrEqual(-1e-6)
      expect(v).toBeLessThanOrEqual(50 + 1e-6)
    }
    const free = pad((x, y) => (x === 1 && y === 1 ? 50 : 0), { overshoots: true })
    expect(Math.min(...Array.from({ length: 60 }, (_, k) => value(free, Math.sin(k), Math.cos(1.7 * k))))).toBeLessThan(-0.1)
  })
})

describe('corrections', () => {
  const puppet = (fade: Response['fade']): Puppet =>
    withResponses(answeringArm(), ruler('smile', 'a', { '1': [by(HAND_X, 10)] }), ruler('open', 'b', { '1': [by(HAND_X, 20)] }), {
      ...newResponse('both', 'Both', 'correction', [sliderInput('a'), sliderInput('b')]),
      ...{ between: 'even', fade },
      stops: [{ id: 's', at: [1, 1], changes: [by(HAND_X, -12)] }],
    })

  test('they count in whole where they were recorded and not at all where one input is at rest', () => {
    for (const fade of ['product', 'least'] as const) {
      const at = (a: number, b: number): number => seen(answered(puppet(fade), { a, b }), HAND_X)
      expect([at(1, 1), at(1, 0), at(0, 1), at(-1, 1)]).toEqual([18, 10, 20, 20])
    }
    expect(seen(answered(puppet('product'), { a: 0.5, b: 0.5 }), HAND_X)).toBeCloseTo(15 - 12 * 0.25, 9)
    expect(seen(answered(puppet('least'), { a: 0.5, b: 0.8 }), HAND_X)).toBeCloseTo(21 - 12 * 0.5, 9)
  })
})

describe('order', () => {
  test('chains are followed in one frame, however they are listed', () => {
    const puppet = withResponses(
      answeringArm(),
      ruler('last', 'c', { '1': [by(HAND_X, 30)] }),
      ruler('middle', 'b', { '1': [by('control/c/value', 1)] }),
      ruler('first', 'a', { '1': [by('control/b/value', 1)] }),
    )
    expect(seen(answered(puppet, { a: 1 }), HAND_X)).toBeCloseTo(30, 9)
    expect(seen(answered(puppet, { a: 0.5 }), HAND_X)).toBeCloseTo(15, 9)
  })

  test('what would go in a circle is refused by name', () => {
    const puppet = withResponses(answeringArm(), ruler('there', 'a', { '1': [by('control/b/value', 1)] }))
    expect(() => withResponses(puppet, ruler('back', 'b', { '1': [by('control/a/value', 1)] }))).toThrow(
      /“there” moves “back”|“back” moves “there”/,
    )
    expect(() => withResponses(puppet, ruler('self', 'c', { '1': [by('control/c/value', 1)] }))).toThrow('“self” would answer to itself')
  })

  test('the angle of a bone that reaches for a target is answered to as it ends up', () => {
    let puppet = run(answeringArm(), addTarget, { id: 'goal', name: 'Goal', at: { x: 300, y: 100 }, parent: null })
    puppet = run(puppet, addConstraint, { constraint: reachWith(['upper', 'lower'], { side: 1 }) })
    const elbow: Response = {
      ...newResponse('elbow', 'Elbow', 'ruler', [{ kind: 'channel', channel: 'bone/lower/angle' }]),
      between: 'even',
      stops: [{ id: 's', at: [100], changes: [by('part/sleeve/y', 50)] }],
    }
    puppet = withResponses(puppet, elbow)
    const frame = answered(puppet, { 'target/goal/x': -60 })
    const angle = frame.skeleton.angle[frame.rig.bones.index.get('lower')!]!
    expect(Math.abs(angle)).toBeGreaterThan(50)
    expect(seen(frame, 'part/sleeve/y')).toBeCloseTo(Math.max(0, Math.min(50, angle / 2)), 6)
    const back: Response = { ...elbow, id: 'back', name: 'Back', stops: [{ id: 's', at: [50], changes: [by('target/goal/x', 5)] }] }
    expect(() => withResponses(puppet, back)).toThrow(EditError)
  })

  test('distances and directions between bones, and speed', () => {
    const input = (kind: 'distance' | 'direction') =>
      ({ kind, from: { bone: 'upper', end: 'start' }, to: { bone: 'palm', end: 'end' } }) as const
    const stops = (at: number) => [{ id: 's', at: [at], changes: [by(HAND_X, 10)] }]
    const far: Response = { ...newResponse('far', 'Far', 'ruler', [input('distance')]), between: 'even', stops: stops(140) }
    // 240 px apart at rest; bent by 180 degrees at the elbow the tip is 100 - 140 from the start.
    expect(seen(answered(withResponses(answeringArm(), far), { 'bone/lower/angle': 90 }), HAND_X)).toBeCloseTo(
      (10 * (240 - Math.hypot(100, 140))) / 100,
      6,
    )
    const turn: Response = { ...newResponse('turn', 'Turn', 'ruler', [input('direction')]), between: 'even', stops: stops(90) }
    expect(seen(answered(withResponses(answeringArm(), turn), { 'bone/upper/angle': 45 }), HAND_X)).toBeCloseTo(5, 6)
    const fast: Response = {
      ...newResponse('fast', 'Fast', 'ruler', [{ kind: 'speed', bone: 'lower' }]),
      ...{ between: 'even', stops: stops(200) },
    }
    const frame = answered(withResponses(answeringArm(), fast), {})
    expect(seen(frame, HAND_X)).toBe(0)
  })
})

describe('ties', () => {
  test('one control drives several, each by its own range', () => {
    const tie = (channel: string, from: [number, number], range: [number, number]) => ({
      channel,
      axis: 'value' as const,
      from,
      to: range,
      curve: null,
    })
    let puppet = answeringArm()
    const master = {
      ...newControl('m', 'Master'),
      ties: [tie('control/a/value', [0, 1], [0, 0.5]), tie('part/hand/y', [-1, 1], [10, -10])],
    }
    puppet = run(puppet, addControl, { control: master })
    puppet = withResponses(puppet, ruler('one', 'a', { '1': [by(HAND_X, 8)] }))
    const frame = answered(puppet, { m: 1 })
    expect(seen(frame, 'control/a/value')).toBe(0.5)
    expect(seen(frame, HAND_X)).toBeCloseTo(4, 9)
    expect(seen(frame, 'part/hand/y')).toBeCloseTo(-10, 9)
    expect(seen(answered(puppet, { m: 0 }), 'part/hand/y')).toBeCloseTo(0, 9)
    expect(() => run(puppet, setControl, { control: { ...master, ties: [tie('control/m/value', [0, 1], [0, 1])] } })).toThrow(
      'answer to itself',
    )
  })
})

test('points of a drawing that moves as one piece go with its turn', () => {
  const puppet = withResponses(answeringArm(), ruler('grow', 'a', { '1': [moved('hand', 'd-hand', [1], [10, 0, 0, 0, 0, 0])] }))
  const frame = answered(puppet, { a: 1, 'bone/palm/angle': 90 })
  const d = frame.rig.drawings.findIndex((k) => frame.rig.parts.ids[k.part] === 'hand')
  const points = [...frame.points[d]!]
  // The upper right corner (340, 85), drawn out by 10 to the right, then turned about (300, 100).
  expect(points.some((x, i) => i % 2 === 0 && Math.hypot(x - 285, points[i + 1]! - 50) < 1e-6)).toBe(true)
  expect(frame.bent[d]).toBe(1)
  expect(answered(puppet, { a: 0 }).bent[d]).toBe(0)
})
