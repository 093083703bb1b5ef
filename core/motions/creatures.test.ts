import { describe, expect, test } from 'vitest'
import { run } from '../puppet/edit'
import { brokenInvariants } from '../puppet/invariants'
import { addBone, setLimits } from '../bones/commands'
import { addConstraint, addTarget } from '../constraints/commands'
import { addClip } from '../clips/commands'
import { channelOf } from '../puppet/channels'
import { posePuppet } from '../puppet/evaluate'
import { bonePoint } from '../puppet/probe'
import { newPuppet } from '../puppet/new'
import { poseInClip, valuesInClip } from '../playing/clips'
import type { Puppet } from '../puppet/schema'
import { bakeMotion } from './bake'
import { bodyKindOf, creatureOf } from './creature'
import { kindOf, READY_MOTIONS } from './ready'

type Spot = readonly [x: number, y: number]
type Figure = Readonly<Record<string, readonly [parent: string | null, from: Spot, to: Spot]>>

const leg = (name: string, parent: string, x: number): Figure => ({
  [`${name} upper`]: [parent, [x, 200], [x, 260]],
  [`${name} lower`]: [`${name} upper`, [x, 260], [x, 320]],
})

/** A hound that looks to the left; names that say little, and paws without any. */
const HOUND: Figure = {
  hips: [null, [320, 180], [240, 175]],
  chest: ['hips', [240, 175], [140, 175]],
  NECK: ['chest', [140, 175], [110, 130]],
  head_01: ['NECK', [110, 130], [50, 130]],
  jaw: ['head_01', [80, 140], [52, 146]],
  tail: ['hips', [320, 180], [370, 140]],
  ...leg('front leg near', 'chest', 150),
  ...leg('front leg far', 'chest', 170),
  ...leg('hind leg near', 'hips', 290),
  ...leg('hind leg far', 'hips', 310),
}

/** A beetle seen from above and in front, with legs that have numbers for names. */
const BEETLE: Figure = {
  shell: [null, [200, 250], [200, 150]],
  'claw arm left': ['shell', [250, 160], [300, 100]],
  'claw left': ['claw arm left', [300, 100], [310, 50]],
  'claw arm right': ['shell', [150, 160], [100, 100]],
  'claw right': ['claw arm right', [100, 100], [90, 50]],
  ...Object.fromEntries(
    [1, 2, 3].flatMap((n) =>
      [1, -1].flatMap((side): [string, Figure[string]][] => {
        const x = (dx: number): number => 200 + side * dx
        const name = `limb ${n} ${side > 0 ? 'L' : 'R'}`
        const y = 180 + 20 * n
        return [
          [name, ['shell', [x(50), y], [x(110), y - 20]]],
          [`${name} end`, [name, [x(110), y - 20], [x(130), 300]]],
        ]
      }),
    ),
  ),
}

const BIRD: Figure = {
  body: [null, [260, 220], [180, 190]],
  neck: ['body', [180, 190], [170, 120]],
  head: ['neck', [170, 120], [130, 100]],
  'lower beak': ['head', [130, 104], [80, 108]],
  beak: ['head', [130, 96], [80, 98]],
  'wing near': ['body', [200, 190], [280, 230]],
  'wing far': ['body', [205, 185], [285, 225]],
  'thigh near': ['body', [215, 230], [215, 280]],
  'shin near': ['thigh near', [215, 280], [215, 350]],
  'thigh far': ['body', [235, 230], [235, 280]],
  'shin far': ['thigh far', [235, 280], [235, 350]],
}

const idOf = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]+/g, '-')

function creature(figure: Figure): Puppet {
  const empty: Puppet = { ...newPuppet('p', 'P', { width: 400, height: 400 }), naming: 'near-far' }
  return Object.entries(figure).reduce((p, [name, [parent, from, to]]) => {
    const at = ([x, y]: Spot) => ({ x, y })
    return run(p, addBone, {
      ...{ id: idOf(name), name, parent: parent === null ? null : idOf(parent), colour: 1 },
      ...{ start: at(from), end: at(to) },
    })
  }, empty)
}

const flipped = (figure: Figure): Figure =>
  Object.fromEntries(Object.entries(figure).map(([name, [parent, [a, b], [c, d]]]) => [name, [parent, [400 - a, b], [400 - c, d]]]))

const USUAL = { strength: 1, speed: 1, mirrored: false }
const ALL = READY_MOTIONS.flatMap(({ motions }) => motions)
const acting = (puppet: Puppet, id: string) => {
  const { clip, missing } = bakeMotion(
    puppet,
    ALL.find((m) => m.id === id)!,
    USUAL,
    'act',
  )
  return { puppet: run(puppet, addClip, { clip }), clip, missing }
}
const tip = (puppet: Puppet, bone: string, time: number) => {
  const frame = posePuppet(puppet, poseInClip(puppet, puppet.clips[0]!, time))
  return bonePoint(frame, frame.rig.bones.index.get(bone)!, 1)
}
const FIGURES = { 'four-legged': HOUND, bird: BIRD, 'many-legged': BEETLE } as const

describe('ready motions for creatures', () => {
  test.each(ALL.filter((m) => kindOf(m) !== 'person').map((m) => [m.id, m] as const))(
    '%s: a sound clip that moves within limits',
    (id, motion) => {
      const figure = FIGURES[kindOf(motion) as keyof typeof FIGURES]
      const limited = Object.keys(figure).reduce(
        (p, name) => run(p, setLimits, { bone: idOf(name), limits: { min: -50, max: 50 } }),
        creature(figure),
      )
      const { puppet, clip } = acting(limited, id)
      expect(brokenInvariants(puppet)).toEqual([])
      expect(Object.keys(clip.layers[0]!.tracks).length).toBeGreaterThan(2)
      expect(motion.beats.at(-1)!.at).toBeLessThanOrEqual(motion.length)
      for (let time = 0; time <= clip.length; time += 1 / 12)
        for (const [address, value] of Object.entries(valuesInClip(puppet, clip, time))) {
          const { min, max } = channelOf(puppet, address)!
          expect(value).toBeGreaterThanOrEqual(min)
          expect(value).toBeLessThanOrEqual(max)
        }
    },
  )

  test('there are at least six for each kind of body, of which none has a name of another of its kind', () => {
    for (const { motions } of READY_MOTIONS) {
      expect(motions.length).toBeGreaterThanOrEqual(6)
      expect(new Set(motions.map((m) => m.name)).size).toBe(motions.length)
    }
    expect(new Set(ALL.map((m) => m.id)).size).toBe(ALL.length)
  })

  test('feet stay where they stand while the front sinks and leans', () => {
    const { puppet } = acting(creature(HOUND), 'animal-sniff')
    for (const paw of ['front-leg-near-lower', 'hind-leg-far-lower']) {
      const [before, after] = [tip(puppet, paw, 0), tip(puppet, paw, 0.5)]
      expect(Math.hypot(before.x - after.x, before.y - after.y)).toBeLessThan(1.5)
    }
    expect(tip(puppet, 'head-01', 0.5).y).toBeGreaterThan(tip(puppet, 'head-01', 0).y + 25)
  })

  test('looking the other way they are the mirror image', () => {
    const [left, right] = [acting(creature(HOUND), 'animal-bark'), acting(creature(flipped(HOUND)), 'animal-bark')]
    for (const bone of ['head-01', 'jaw', 'tail', 'front-leg-near-lower'])
      for (const time of [0.3, 0.46, 1]) {
        const [a, b] = [tip(left.puppet, bone, time), tip(right.puppet, bone, time)]
        expect(a.x).toBeCloseTo(400 - b.x, 3)
        expect(a.y).toBeCloseTo(b.y, 3)
      }
  })

  test('legs that reach for targets are led by them, also where those hang on the body', () => {
    const named = (id: string, parent: string | null, p: Puppet): Puppet => {
      const bones = [`limb-${id}`, `limb-${id}-end`]
      const with1 = run(p, addTarget, { id: `foot-${id}`, name: `Foot ${id}`, at: p.bones[bones[1]!]!.end, parent })
      return run(with1, addConstraint, {
        constraint: {
          ...{ kind: 'reach', id: `reach-${id}`, name: `Reach ${id}`, amount: 1, bones, target: `foot-${id}`, side: 0, soft: 0 },
          ...{ stretch: 1, level: null, pole: null },
        },
      })
    }
    const { puppet, clip } = acting(named('2-r', 'shell', named('2-l', null, creature(BEETLE))), 'crawler-hop')
    expect(Object.keys(clip.layers[0]!.tracks)).toEqual(expect.arrayContaining(['target/foot-2-l/y', 'target/foot-2-r/y']))
    for (const side of ['l', 'r']) {
      const [before, after] = [tip(puppet, `limb-2-${side}-end`, 0), tip(puppet, `limb-2-${side}-end`, 1.1)]
      expect(Math.hypot(before.x - after.x, before.y - after.y)).toBeLessThan(1)
    }
  })

  test('what is missing is said once, and what opens by a beak needs no mouth', () => {
    const { jaw, tail, ...rest } = HOUND
    expect(jaw && tail).toBeTruthy()
    expect([...acting(creature(rest), 'animal-bark').missing].sort()).toEqual(['jaw', 'mouth', 'tail'])
    expect([...acting(creature(BIRD), 'bird-call').missing].sort()).toEqual(['crest', 'tail'])
  })
})

describe('the body of a creature', () => {
  test('is known by its bones', () => {
    expect(bodyKindOf(creature(HOUND))).toBe('four-legged')
    expect(bodyKindOf(creature(BIRD))).toBe('bird')
    expect(bodyKindOf(creature(BEETLE))).toBe('many-legged')
    expect(bodyKindOf(newPuppet('e', 'Empty'))).toBe('person')
  })

  test('looks to the side on which its head is, and from the front where it has none', () => {
    expect(creatureOf(creature(HOUND)).facing).toBe(-1)
    expect(creatureOf(creature(flipped(HOUND))).facing).toBe(1)
    expect(creatureOf(creature(BEETLE)).facing).toBe(0)
  })

  test('legs of which no name says anything are known by reaching the ground, and step in turn', () => {
    const { legs } = creatureOf(creature(BEETLE))
    const named = (group: string): string[] =>
      legs
        .get(group)!
        .map(({ bones }) => bones[0]!.name)
        .sort()
    expect(named('legs')).toHaveLength(6)
    expect(named('legs:a').some((name) => named('legs:b').includes(name))).toBe(false)
    expect([named('legs:a').length, named('legs:b').length]).toEqual([3, 3])
    // Neighbours step in turn, and so do legs that face each other.
    const isA = (name: string): boolean => named('legs:a').includes(name)
    expect(isA('limb 2 L')).not.toBe(isA('limb 1 L'))
    expect(isA('limb 2 L')).not.toBe(isA('limb 2 R'))
  })
})
