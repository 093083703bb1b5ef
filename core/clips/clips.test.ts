import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { actingArm, BASE, FOREARM, points, track, UPPER } from '../test/acting'
import { often } from '../test/often'
import { brokenInvariants } from '../puppet/invariants'
import { channelOf } from '../puppet/channels'
import { compile } from '../puppet/compile'
import { otherAddress, mirroredPose } from '../puppet/mirror'
import { run } from '../puppet/edit'
import type { Puppet } from '../puppet/schema'
import { deleteBone } from '../bones/commands'
import { deleteControl } from '../controls/commands'
import { clipForRig, namedClip, poseInClip, valuesInClip } from '../playing/clips'
import { everything } from '../test/commands/everything'
import { addLayer, copyClip, deleteClip, deleteLayer, dropLoose, keepLoose, setClip, setLayer, setLoose } from './commands'
import { deleteKeys, moveKeys, setBeyond, setKeyHandles, setKeys, setKeyWay, pasteKeys } from './keyCommands'
import { layered, weightChannel, writeClip } from './layers'
import { anticipate, followLate, overshoot, settle } from './moveCommands'
import { newLayer } from './new'
import { breakDown, copyHungPose, deleteHungPose, hangPose, holdPose, moveHungPose } from './poseCommands'
import type { Clip, Track } from './records'

const clip = (puppet: Puppet): Clip => puppet.clips[0]!
const at = (puppet: Puppet, time: number, address = FOREARM): number => valuesInClip(puppet, clip(puppet), time)[address]!
const base = (puppet: Puppet): Record<string, Track> => clip(puppet).layers[0]!.tracks
const keyed = (list: readonly (readonly [number, number])[], channel = FOREARM, puppet = actingArm()): Puppet =>
  run(puppet, setKeys, { ...BASE, keys: list.map(([time, value]) => ({ channel, time, value })) })
const times = (puppet: Puppet, channel = FOREARM): number[] => base(puppet)[channel]!.keys.map((key) => key.time)
const hung = (puppet: Puppet, id: string, time: number, values: Record<string, number>): Puppet =>
  run(puppet, hangPose, { ...BASE, pose: { id, name: id, time }, values })
/** Down at 0, up at 1. */
const waving = (): Puppet => hung(hung(actingArm(), 'down', 0, { [FOREARM]: 0, [UPPER]: 5 }), 'up', 1, { [FOREARM]: 60, [UPPER]: 25 })

describe('keys', () => {
  test('are kept in order, replaced at their time, and clamped to the limits of their channel', () => {
    const puppet = keyed([
      [1, 20],
      [0, 0],
      [1, 30],
    ])
    expect(base(puppet)[FOREARM]!.keys.map(({ time, value }) => [time, value])).toEqual([
      [0, 0],
      [1, 30],
    ])
    expect(keyed([[0, 7]], 'control/a/value').clips[0]!.layers[0]!.tracks['control/a/value']!.keys[0]!.value).toBe(1)
    expect(() => keyed([[0, 0]], 'bone/nobody/angle')).toThrow('Nothing in this puppet answers')
  })

  test('are moved and stretched in time and value, and take the places that they come to', () => {
    const puppet = keyed([
      [0, 0],
      [1, 10],
      [2, 20],
    ])
    const keys = [
      { channel: FOREARM, time: 1 },
      { channel: FOREARM, time: 2 },
    ]
    const moved = run(puppet, moveKeys, {
      ...{ ...BASE, keys },
      seconds: { about: 1, by: 0.5, shift: 0.25 },
      value: { about: 10, by: 2, shift: -5 },
    })
    expect(base(moved)[FOREARM]!.keys.map(({ time, value }) => [time, value])).toEqual([
      [0, 0],
      [1.25, 5],
      [1.75, 25],
    ])
    const onto = run(puppet, moveKeys, {
      ...{ ...BASE, keys: [keys[0]!] },
      seconds: { about: 0, by: 1, shift: 1 },
      value: { about: 0, by: 1, shift: 0 },
    })
    expect(base(onto)[FOREARM]!.keys.map(({ value }) => value)).toEqual([0, 10])
    expect(() =>
      run(puppet, moveKeys, { ...BASE, keys, seconds: { about: 0, by: 1, shift: -3 }, value: { about: 0, by: 1, shift: 0 } }),
    ).toThrow('before the beginning')
  })

  test('retiming keeps every pose: what was at a time is at the time that it was moved to', () => {
    fc.assert(
      fc.property(points, fc.double({ min: 0.25, max: 4, noNaN: true }), (list, factor) => {
        const puppet = keyed(list)
        const keys = list.map(([time]) => ({ channel: FOREARM, time }))
        const slower = run(puppet, moveKeys, {
          ...BASE,
          keys,
          seconds: { about: 0, by: factor, shift: 0 },
          value: { about: 0, by: 1, shift: 0 },
        })
        for (let k = 0; k <= 10; k++) {
          const time = (list.at(-1)![0] * k) / 10
          expect(at(slower, time * factor)).toBeCloseTo(at(puppet, time), 6)
        }
      }),
      { numRuns: often(40, 800) },
    )
  })

  test('have ways and handles; another way forgets the handles', () => {
    const channel = FOREARM
    const key = [{ channel, time: 0 }]
    const shaped = run(
      keyed([
        [0, 0],
        [1, 10],
      ]),
      setKeyHandles,
      {
        ...{ ...BASE, channel, time: 0 },
        handles: { arrive: [0.1, 0], leave: [0.3, 8], aligned: true },
      },
    )
    expect(at(shaped, 0.3)).toBeGreaterThan(4)
    const flat = run(shaped, setKeyWay, { ...BASE, keys: key, way: 'flat' })
    expect(base(flat)[channel]!.keys[0]).toMatchObject({ way: 'flat', handles: null })
    expect(run(flat, setBeyond, { ...BASE, channel, before: 'hold', after: 'repeat' }).clips[0]!.layers[0]!.tracks[channel]!.after).toBe(
      'repeat',
    )
  })

  test('a track without keys goes, and what is gone leaves no track behind', () => {
    const puppet = keyed([[0, 3]], 'control/a/value', keyed([[0, 3]]))
    expect(Object.keys(base(run(puppet, deleteKeys, { ...BASE, keys: [{ channel: FOREARM, time: 0 }] })))).toEqual(['control/a/value'])
    expect(Object.keys(base(run(puppet, deleteControl, { control: 'a' })))).toEqual([FOREARM])
    const without = run(puppet, deleteBone, { bone: 'lower', withChildren: true })
    expect(brokenInvariants(without)).toEqual([])
    expect(Object.keys(base(without))).toEqual(['control/a/value'])
  })
})

describe('poses on the line', () => {
  test('take their keys along when they are moved, late ones as late as they were', () => {
    const late = run(waving(), followLate, { ...BASE, channels: [UPPER, FOREARM], from: 1, to: 1, seconds: 0.1, falloff: 1 })
    expect(times(late)).toEqual([0, 1.1])
    const moved = run(late, moveHungPose, { clip: 'act', pose: 'up', to: 2, ripples: false })
    expect(times(moved)).toEqual([0, expect.closeTo(2.1, 9)])
    expect(times(moved, UPPER)).toEqual([0, 2])
  })

  test('ripple: what comes later moves along, and what is before stays', () => {
    const three = hung(waving(), 'end', 3, { [FOREARM]: 10 })
    const moved = run(three, moveHungPose, { clip: 'act', pose: 'up', to: 1.5, ripples: true })
    expect(clip(moved).poses.map((p) => p.time)).toEqual([0, 1.5, 3.5])
    expect(times(moved)).toEqual([0, 1.5, 3.5])
  })

  test('a breakdown lies a share of the way between its neighbours, for some channels or for all', () => {
    const make = { ...BASE, from: 'down', to: 'up', pose: { id: 'mid', name: 'Mid', time: 0.4 } }
    const all = run(waving(), breakDown, { ...make, share: 0.25, only: null })
    expect(at(all, 0.4)).toBeCloseTo(15, 9)
    expect(at(all, 0.4, UPPER)).toBeCloseTo(10, 9)
    const some = run(waving(), breakDown, { ...make, share: 0.75, only: [UPPER] })
    expect(times(some)).toEqual([0, 1])
    expect(at(some, 0.4, UPPER)).toBeCloseTo(20, 9)
    expect(() => run(waving(), breakDown, { ...make, pose: { ...make.pose, time: 1 }, share: 0.5, only: null })).toThrow('between')
  })

  test('are copied, held and deleted with all that they own', () => {
    const copied = run(waving(), copyHungPose, { clip: 'act', pose: 'down', id: 'again', to: 2, mirrored: false })
    expect(at(copied, 2)).toBe(0)
    expect(at(copied, 1)).toBe(60)
    const held = run(waving(), holdPose, { clip: 'act', pose: 'up', id: 'still', until: 1.5 })
    for (const time of [1, 1.2, 1.5]) expect(at(held, time)).toBeCloseTo(60, 9)
    const gone = run(held, deleteHungPose, { clip: 'act', pose: 'up' })
    expect(times(gone)).toEqual([0, 1.5])
    expect(clip(gone).poses.map((p) => p.id)).toEqual(['down', 'still'])
  })

  test('one that comes to the place of another takes it over', () => {
    const moved = run(waving(), moveHungPose, { clip: 'act', pose: 'up', to: 0, ripples: false })
    expect(clip(moved).poses.map((p) => p.id)).toEqual(['up'])
    expect(at(moved, 0)).toBe(60)
    expect(brokenInvariants(moved)).toEqual([])
  })
})

describe('accents', () => {
  const accent = { ...BASE, from: 'down', to: 'up', amount: 0.25, seconds: 0.2, only: null }

  test('anticipation goes back by a share of the move before it begins', () => {
    const puppet = run(waving(), anticipate, accent)
    expect(at(puppet, 0.2)).toBeCloseTo(-15, 9)
    expect(at(puppet, 0)).toBe(0)
    expect(at(puppet, 1)).toBe(60)
  })

  test('overshoot goes beyond by a share of the move, and the pose is there later', () => {
    const puppet = run(waving(), overshoot, accent)
    expect(at(puppet, 1)).toBeCloseTo(75, 9)
    expect(at(puppet, 1.2)).toBeCloseTo(60, 9)
    expect(base(puppet)[FOREARM]!.keys.map((k) => k.pose)).toEqual(['down', null, 'up'])
  })

  test('settle swings about the pose to either side, ever less, comes to rest in it, and leaves later keys', () => {
    const puppet = run(waving(), settle, accent)
    const swings = [1, 2, 3].map((n) => at(puppet, 1 + n * accent.seconds) - 60)
    expect(swings[0]).toBeCloseTo(60 * accent.amount, 9)
    expect(swings[1]).toBeCloseTo(-0.45 * swings[0]!, 9)
    expect(swings[2]).toBeCloseTo(0.45 ** 2 * swings[0]!, 9)
    expect(at(puppet, 3)).toBeCloseTo(60, 9)
    const followed = run(hung(waving(), 'on', 1.5, { [FOREARM]: 0, [UPPER]: 0 }), settle, accent)
    expect(at(followed, 1.5)).toBeCloseTo(0, 9)
    expect(Math.max(...times(followed))).toBe(1.5)
  })

  test('are refused where nothing moves or there is no time for them', () => {
    expect(() => run(waving(), overshoot, { ...accent, seconds: 1 })).toThrow('too near')
    const still = hung(hung(actingArm(), 'down', 0, { [FOREARM]: 9 }), 'up', 1, { [FOREARM]: 9 })
    expect(() => run(still, anticipate, accent)).toThrow('Nothing moves')
  })

  test('each link of a chain comes later than the one before, less from link to link', () => {
    const tip = 'bone/palm/angle'
    const puppet = hung(actingArm(), 'up', 1, { [UPPER]: 10, [FOREARM]: 20, [tip]: 30 })
    const late = run(puppet, followLate, { ...BASE, channels: [UPPER, FOREARM, tip], from: 0, to: 2, seconds: 0.2, falloff: 0.5 })
    expect([UPPER, FOREARM, tip].map((c) => times(late, c)[0])).toEqual([1, 1.2, 1.3].map((t) => expect.closeTo(t, 9)))
  })
})

test('a pose at rest is hung like any other, and is rest for whatever moves later', () => {
  const rest = hung(actingArm(), 'rest', 0, {})
  expect(clip(rest).poses.map(({ name }) => name)).toEqual(['rest'])
  const up = hung(rest, 'up', 1, { [FOREARM]: 60 })
  expect(base(up)[FOREARM]!.keys).toMatchObject([
    { time: 0, value: 0, pose: 'rest' },
    { time: 1, value: 60, pose: 'up' },
  ])
  const more = hung(up, 'on', 2, { [FOREARM]: 60, [UPPER]: 10 })
  expect(base(more)[UPPER]!.keys.map(({ time }) => time)).toEqual([2])
})

test('pasted keys keep their curves and belong to no pose', () => {
  const handles = { arrive: [0.1, 0] as [number, number], leave: [0.2, 5] as [number, number], aligned: false }
  const key = { time: 0.5, value: 42, way: 'custom' as const, handles, pose: 'up' }
  const puppet = run(waving(), pasteKeys, { ...BASE, keys: [{ channel: FOREARM, key }] })
  const pasted = base(puppet)[FOREARM]!.keys.find(({ time }) => time === 0.5)!
  expect(pasted).toMatchObject({ value: 42, way: 'custom', handles, pose: null })
})

describe('layers', () => {
  const over = (mode: 'add' | 'override', value: number, weight = 1): Puppet => {
    const layer = { ...newLayer('more', 'More', mode), weight, tracks: { [FOREARM]: track([[0, value]]) } }
    return run(keyed([[0, 20]]), addLayer, { clip: 'act', layer })
  }

  test('additive ones add what they differ from rest by, overriding ones take the place of what is below', () => {
    expect(at(over('add', 8), 0)).toBeCloseTo(28, 12)
    expect(at(over('add', 8, 0.5), 0)).toBeCloseTo(24, 12)
    expect(at(over('override', 8, 0.25), 0)).toBeCloseTo(17, 12)
    expect(at(run(over('add', 8), setLayer, { clip: 'act', layer: 'more', muted: true }), 0)).toBe(20)
  })

  test('the order of additive layers makes no difference, and their sum is the sum of what each adds', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 1, maxLength: 5 }), (amounts) => {
        const layers = amounts.map((v, k) => ({ ...newLayer(`l${k}`, `L${k}`, 'add'), tracks: { [UPPER]: track([[0, v]]) } }))
        const made = (list: typeof layers) => list.reduce((p, layer) => run(p, addLayer, { clip: 'act', layer }), actingArm())
        const sum = amounts.reduce((a, b) => a + b, 0)
        expect(at(made(layers), 1, UPPER)).toBeCloseTo(sum, 9)
        expect(at(made([...layers].reverse()), 1, UPPER)).toBeCloseTo(sum, 9)
      }),
      { numRuns: often(20, 400) },
    )
  })

  test('what multiplies is added by multiplying', () => {
    const channel = channelOf(actingArm(), 'part/hand/scaleX')!
    expect(layered(channel, 'add', 2, 3, 1)).toBeCloseTo(6, 12)
    expect(layered(channel, 'add', 2, 4, 0.5)).toBeCloseTo(4, 12)
  })

  test('their weight is a channel that can be keyed', () => {
    const puppet = keyed(
      [
        [0, 0],
        [2, 1],
      ],
      weightChannel('more'),
      over('add', 8),
    )
    expect(at(puppet, 0)).toBe(20)
    expect(at(puppet, 1)).toBeCloseTo(24, 9)
    expect(at(puppet, 2)).toBeCloseTo(28, 9)
    expect(run(puppet, deleteLayer, { clip: 'act', layer: 'more' }).clips[0]!.layers.length).toBe(1)
    expect(base(run(puppet, deleteLayer, { clip: 'act', layer: 'more' }))[weightChannel('more')]).toBeUndefined()
  })

  test('are kept to parts, and to the bones that move them', () => {
    const masked = (part: string): Puppet => run(over('add', 8), setLayer, { clip: 'act', layer: 'more', parts: [part] })
    // The sleeve bends with the forearm, the hand does not.
    expect(at(masked('sleeve'), 0)).toBe(28)
    expect(at(masked('hand'), 0)).toBe(20)
  })

  test('the base stays', () => {
    expect(() => run(actingArm(), deleteLayer, { clip: 'act', layer: 'act-base' })).toThrow('stays')
  })
})

describe('a clip', () => {
  test('at a time is the same whatever was asked before, to the last bit', () => {
    const puppet = run(waving(), overshoot, { ...BASE, from: 'down', to: 'up', amount: 0.3, seconds: 0.1, only: null })
    const rig = compile(puppet)
    const ready = clipForRig(rig, clip(puppet))
    const shown = (time: number): Float64Array => {
      const pose = Float64Array.from(rig.restPose)
      writeClip(ready, time, pose)
      return pose
    }
    const order = Array.from({ length: 60 }, (_, k) => k / 24)
    const forward = order.map(shown)
    const random = [...order].sort((a, b) => Math.sin(99 * a) - Math.sin(99 * b))
    for (const time of random) expect(shown(time)).toEqual(forward[order.indexOf(time)])
    for (const time of order) {
      const values = valuesInClip(puppet, clip(puppet), time)
      for (const [address, value] of Object.entries(values))
        expect(shown(time)[rig.slots.families.get('bone')!.base + boneField(rig, address)]).toBe(value)
    }
  })

  test('on twos holds each picture for two frames', () => {
    const puppet = run(waving(), setClip, { clip: 'act', step: 2 })
    const plain = waving()
    for (let frame = 0; frame <= 24; frame++) expect(at(puppet, frame / 24)).toBeCloseTo(at(plain, (2 * Math.floor(frame / 2)) / 24), 9)
  })

  test('is copied as its mirror image: at every time it shows the mirrored pose', () => {
    const before = everything()
    const after = run(before, copyClip, { clip: 'nod', id: 'don', name: 'Don', mirrored: true })
    expect(brokenInvariants(after)).toEqual([])
    expect(after.clips.map((c) => c.id)).toEqual(['nod', 'don'])
    for (const time of [0, 0.3, 0.9, 2]) {
      const image = mirroredPose(after, valuesInClip(after, after.clips[0]!, time))
      const copy = valuesInClip(after, after.clips[1]!, time)
      expect(Object.keys(copy).sort()).toEqual(Object.keys(image).sort())
      for (const [address, value] of Object.entries(image)) expect(copy[address], otherAddress(after, address)).toBeCloseTo(value, 12)
    }
    // Its keys name its own poses.
    expect(after.clips[1]!.layers[0]!.tracks[UPPER]!.keys[0]!.pose).toBe('don-pose-1')
  })

  test('shows what is posed over it until that is kept or dropped', () => {
    const posed = run(waving(), setLoose, { clip: 'act', values: { [FOREARM]: 33 } })
    expect(poseInClip(posed, clip(posed), 0)[FOREARM]).toBe(33)
    expect(poseInClip(posed, clip(posed), 1)[FOREARM]).toBe(33)
    const kept = run(posed, keepLoose, { ...BASE, time: 0.5 })
    expect([at(kept, 0.5), Object.keys(clip(kept).loose).length]).toEqual([33, 0])
    expect(poseInClip(run(posed, dropLoose, { clip: 'act' }), clip(waving()), 1)[FOREARM]).toBe(60)
    expect(run(posed, setLoose, { clip: 'act', values: { [FOREARM]: null } }).clips[0]!.loose).toEqual({})
    expect(() => run(kept, keepLoose, { ...BASE, time: 0 })).toThrow('has its key')
  })

  test('is found by its name, and refused with what there is', () => {
    expect(namedClip(waving(), 'ACT').id).toBe('act')
    expect(() => namedClip(waving(), 'jump')).toThrow('No clip is called "jump"; this puppet has Act.')
    const two = run(waving(), copyClip, { clip: 'act', id: 'second', name: 'Act', mirrored: false })
    expect(() => namedClip(two, 'ACT')).toThrow('use the id')
    expect(run(two, deleteClip, { clip: 'second' }).clips.length).toBe(1)
  })

  test('is renamed, made longer and counted otherwise; a range must go forward', () => {
    const changed = run(waving(), setClip, { clip: 'act', name: 'Wave', rate: 25, range: { from: 0.5, to: 2 } })
    expect(clip(changed)).toMatchObject({ name: 'Wave', rate: 25, length: 4, range: { from: 0.5, to: 2 } })
    expect(() => run(changed, setClip, { clip: 'act', range: { from: 1, to: 1 } })).toThrow('end after')
  })
})

/** Where a field of a bone stands after the first bone's. */
function boneField(rig: ReturnType<typeof compile>, address: string): number {
  const [, id = '', field = ''] = address.split('/')
  const family = rig.slots.families.get('bone')!
  return family.index.get(id)! * family.stride + family.fields.indexOf(field)
}
