import { describe, expect, test } from 'vitest'
import { addClip, addLayer } from '../clips/commands'
import { setKeys } from '../clips/keyCommands'
import { addControl } from '../controls/commands'
import { newControl } from '../controls/new'
import { newClip, newLayer } from '../clips/new'
import { weightChannel } from '../clips/layers'
import { mapped } from '../kernel/mapped'
import { nth } from '../kernel/sure'
import { poseInClip, valuesInClip } from '../playing/clips'
import { run } from '../puppet/edit'
import { posePuppet } from '../puppet/evaluate'
import { brokenInvariants } from '../puppet/invariants'
import { mirroredPose } from '../puppet/mirror'
import { bonePoint } from '../puppet/probe'
import type { Puppet } from '../puppet/schema'
import { HANGING, person, SPREAD } from '../test/people'
import { bakeKept, keepMotion, KeptMotion } from './kept'

const PLAIN = { strength: 1, speed: 1, mirrored: false }

/** A person who raises the left arm and bends it, and sinks a little; in a second layer the head nods. */
function acting(): Puppet {
  let puppet = run(person(HANGING), addClip, { clip: newClip('act', 'Act', { length: 3 }) })
  const key = (channel: string, time: number, value: number) => ({ channel, time, value })
  const keys = [
    ...[key('bone/upper-arm-left/angle', 0, 0), key('bone/upper-arm-left/angle', 1, 110), key('bone/forearm-left/angle', 1, 40)],
    ...[key('bone/hips/y', 0, 0), key('bone/hips/y', 1, 14), key('bone/chest/angle', 1, 6), key(weightChannel('nod'), 0, 0)],
    key(weightChannel('nod'), 2, 1),
  ]
  puppet = run(puppet, addLayer, { clip: 'act', layer: newLayer('nod', 'Nod', 'add') })
  puppet = run(puppet, setKeys, { clip: 'act', layer: 'act-base', keys })
  return run(puppet, setKeys, { clip: 'act', layer: 'nod', keys: [key('bone/head/angle', 0, 12)] })
}

const source = acting()
const kept = keepMotion(source, nth(source.clips, 0), 'mine')
/** The puppet with the motion baked into it. */
const acted = (puppet: Puppet, manner: Partial<typeof PLAIN> = {}): Puppet => {
  const { clip } = bakeKept({ ...puppet, clips: [] }, kept, { ...PLAIN, ...manner }, 'baked')
  return run({ ...puppet, clips: [] }, addClip, { clip })
}
const valuesAt = (puppet: Puppet, time: number): Record<string, number> => valuesInClip(puppet, nth(puppet.clips, 0), time)
const handAt = (puppet: Puppet, time: number): { x: number; y: number } => {
  const frame = posePuppet(puppet, poseInClip(puppet, nth(puppet.clips, 0), time))
  return bonePoint(frame, frame.rig.bones.index.get('hand-left')!, 1)
}
const TIMES = [0, 0.4, 1, 1.7, 2.6]

describe('a clip kept as a ready motion', () => {
  test('is data that is checked, and plays on its own puppet as it was', () => {
    expect(KeptMotion.parse(JSON.parse(JSON.stringify(kept)))).toEqual(kept)
    const again = acted(source)
    for (const time of TIMES)
      for (const [address, value] of Object.entries(valuesAt(source, time))) expect(valuesAt(again, time)[address]).toBeCloseTo(value, 9)
    expect(brokenInvariants(again)).toEqual([])
  })

  test('puts the hand where it was on a puppet whose arms were drawn spread', () => {
    const spread = acted(person(SPREAD))
    // Where the arm is keyed, from its first moment on.
    for (const time of [1, 2]) {
      const [a, b] = [handAt(source, time), handAt(spread, time)]
      expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(12)
    }
  })

  test('fits its lengths to larger legs, its speed and its strength to what is asked', () => {
    const large = person(mapped(HANGING, ([parent, x0, y0, x1, y1]) => [parent, 2 * x0, 2 * y0, 2 * x1, 2 * y1] as const))
    expect(valuesAt(acted(large), 1)['bone/hips/y']).toBeCloseTo(28, 6)
    expect(valuesAt(acted(source, { speed: 2 }), 0.5)['bone/upper-arm-left/angle']).toBeCloseTo(110, 6)
    expect(valuesAt(acted(source, { strength: 0.5 }), 1)['bone/upper-arm-left/angle']).toBeCloseTo(55, 6)
  })

  test('mirrored shows mirrored poses', () => {
    const mirrored = acted(source, { mirrored: true })
    for (const time of TIMES) {
      const image = mirroredPose(source, valuesAt(source, time))
      for (const [address, value] of Object.entries(valuesAt(mirrored, time))) expect(image[address] ?? 0, address).toBeCloseTo(value, 6)
    }
  })

  test('keeps the weight of a layer with it, also where one below is left out', () => {
    const silent = run(acting(), addLayer, { clip: 'act', layer: newLayer('more', 'More', 'add') })
    const [base, nod, more] = nth(silent.clips, 0).layers
    const clip = { ...nth(silent.clips, 0), layers: [base!, { ...more!, muted: true }, nod!] }
    const again = bakeKept({ ...source, clips: [] }, keepMotion(source, clip, 'mine'), PLAIN, 'baked').clip
    const baked = run({ ...source, clips: [] }, addClip, { clip: again })
    for (const time of TIMES)
      expect(valuesAt(baked, time)['bone/head/angle'] ?? 0).toBeCloseTo(valuesAt(source, time)['bone/head/angle'] ?? 0, 9)
  })

  test('mirrored turns the head and the gaze to the other side', () => {
    const pad = {
      ...newControl('turn', 'Head turn'),
      kind: 'pad' as const,
      range: { min: -1, max: 1, rest: 0 },
      up: { min: -1, max: 1, rest: 0 },
    }
    const turning = run(run(source, addControl, { control: pad }), setKeys, {
      ...{ clip: 'act', layer: 'act-base' },
      keys: ['x', 'y'].map((axis) => ({ channel: `control/turn/${axis}`, time: 0, value: 0.6 })),
    })
    const motion = keepMotion(turning, nth(turning.clips, 0), 'mine')
    const { clip } = bakeKept(turning, motion, { ...PLAIN, mirrored: true }, 'baked')
    const values = valuesInClip(turning, clip, 0)
    expect([values['control/turn/x'], values['control/turn/y']]).toEqual([expect.closeTo(-0.6, 9), expect.closeTo(0.6, 9)])
  })

  test('plays what it can, and says what is missing', () => {
    const { 'Forearm left': _, 'Hand left': __, ...armless } = HANGING
    const { clip, missing } = bakeKept(person(armless), kept, PLAIN, 'baked')
    expect(missing).toEqual(['forearm'])
    expect(Object.keys(nth(clip.layers, 0).tracks)).toContain('bone/upper-arm-left/angle')
  })
})
