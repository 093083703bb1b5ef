import { describe, expect, test } from 'vitest'
import { run } from '../puppet/edit'
import { brokenInvariants } from '../puppet/invariants'
import { addBone, setLimits } from '../bones/commands'
import { addClip } from '../clips/commands'
import { channelOf } from '../puppet/channels'
import { posePuppet } from '../puppet/evaluate'
import { bonePoint } from '../puppet/probe'
import { newPuppet } from '../puppet/new'
import { mirroredPose } from '../puppet/mirror'
import { poseInClip, valuesInClip } from '../playing/clips'
import type { Puppet } from '../puppet/schema'
import { bakeMotion } from './bake'
import { bodyOf } from './body'
import { mirroredTerms } from './motion'
import { PEOPLE } from './people'
import { withinLimits } from './resolve'

/** Spots of a figure that stands, by the names of bones: start and end. */
type Figure = Readonly<Record<string, readonly [parent: string | null, x0: number, y0: number, x1: number, y1: number]>>

const HANGING: Figure = {
  Hips: [null, 200, 300, 200, 270],
  Spine: ['Hips', 200, 270, 200, 230],
  Chest: ['Spine', 200, 230, 200, 180],
  Head: ['Chest', 200, 170, 200, 80],
  'Upper arm left': ['Chest', 240, 190, 252, 250],
  'Forearm left': ['Upper arm left', 252, 250, 258, 306],
  'Hand left': ['Forearm left', 258, 306, 260, 330],
  'Upper arm right': ['Chest', 160, 190, 148, 250],
  'Forearm right': ['Upper arm right', 148, 250, 142, 306],
  'Hand right': ['Forearm right', 142, 306, 140, 330],
  'Thigh left': ['Hips', 220, 300, 222, 370],
  'Shin left': ['Thigh left', 222, 370, 222, 440],
  'Foot left': ['Shin left', 222, 440, 244, 450],
  'Thigh right': ['Hips', 180, 300, 178, 370],
  'Shin right': ['Thigh right', 178, 370, 178, 440],
  'Foot right': ['Shin right', 178, 440, 156, 450],
}

/** The same person drawn with arms held out level. */
const SPREAD: Figure = {
  ...HANGING,
  'Upper arm left': ['Chest', 240, 190, 300, 190],
  'Forearm left': ['Upper arm left', 300, 190, 356, 190],
  'Hand left': ['Forearm left', 356, 190, 380, 190],
  'Upper arm right': ['Chest', 160, 190, 100, 190],
  'Forearm right': ['Upper arm right', 100, 190, 44, 190],
  'Hand right': ['Forearm right', 44, 190, 20, 190],
}

const idOf = (name: string): string => name.toLowerCase().replace(/ /g, '-')

function person(figure: Figure): Puppet {
  const empty: Puppet = { ...newPuppet('p', 'P', { width: 400, height: 480 }), naming: 'character-side' }
  const boned = Object.entries(figure).reduce(
    (p, [name, [parent, x0, y0, x1, y1]]) =>
      run(p, addBone, {
        ...{ id: idOf(name), name, parent: parent === null ? null : idOf(parent), colour: 1 },
        ...{ start: { x: x0, y: y0 }, end: { x: x1, y: y1 } },
      }),
    empty,
  )
  const knees: [string, number, number][] = [
    ['shin-left', -130, 5],
    ['shin-right', -5, 130],
  ]
  return knees.reduce((p, [bone, min, max]) => run(p, setLimits, { bone, limits: { min, max } }), boned)
}

const USUAL = { strength: 1, speed: 1, mirrored: false }
const motionOf = (id: string) => PEOPLE.find((m) => m.id === id)!
const acting = (puppet: Puppet, id: string, manner = USUAL) => {
  const { clip, missing } = bakeMotion(puppet, motionOf(id), manner, 'act')
  return { puppet: run(puppet, addClip, { clip }), clip, missing }
}
const tip = (puppet: Puppet, bone: string, time: number) => {
  const frame = posePuppet(puppet, poseInClip(puppet, puppet.clips[0]!, time))
  return bonePoint(frame, frame.rig.bones.index.get(bone)!, 1)
}

describe('ready motions', () => {
  test.each(PEOPLE.map((m) => [m.name, m] as const))(
    '%s: a sound clip that moves, within all limits, and ends at its length',
    (_, motion) => {
      const { puppet, clip } = acting(person(HANGING), motion.id)
      expect(brokenInvariants(puppet)).toEqual([])
      expect(clip.poses.length).toBe(motion.beats.length)
      expect(motion.beats.at(-1)!.at).toBeLessThanOrEqual(motion.length)
      for (let time = 0; time <= clip.length; time += 1 / 24)
        for (const [address, value] of Object.entries(valuesInClip(puppet, clip, time))) {
          const { min, max } = channelOf(puppet, address)!
          expect(value).toBeGreaterThanOrEqual(min)
          expect(value).toBeLessThanOrEqual(max)
        }
    },
  )

  test('are fitted to how arms were drawn: hanging or held out, the hand waves at the same height beside the head', () => {
    const [hanging, spread] = [acting(person(HANGING), 'wave'), acting(person(SPREAD), 'wave')]
    for (const time of [0.95, 1.35, 1.75]) {
      const [a, b] = [tip(hanging.puppet, 'hand-left', time), tip(spread.puppet, 'hand-left', time)]
      expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(12)
      expect(a.y).toBeLessThan(170)
      expect(a.x).toBeGreaterThan(240)
    }
  })

  test('sinking hips leave the feet where they are', () => {
    const { puppet } = acting(person(HANGING), 'sit')
    const [before, after] = [tip(puppet, 'shin-left', 0), tip(puppet, 'shin-left', 1.8)]
    expect(Math.hypot(before.x - after.x, before.y - after.y)).toBeLessThan(1)
    expect(tip(puppet, 'hips', 1.8).y).toBeGreaterThan(tip(puppet, 'hips', 0).y + 50)
  })

  test('mirrored they are the mirror image of the pose at every time', () => {
    const plain = acting(person(HANGING), 'wave')
    const mirrored = acting(person(HANGING), 'wave', { ...USUAL, mirrored: true })
    for (const time of [0, 0.4, 1, 1.35, 3]) {
      const image = mirroredPose(plain.puppet, poseInClip(plain.puppet, plain.clip, time))
      const pose = poseInClip(mirrored.puppet, mirrored.clip, time)
      for (const address of new Set([...Object.keys(image), ...Object.keys(pose)]))
        expect(pose[address] ?? 0, address).toBeCloseTo(image[address] ?? 0, 6)
    }
    expect(mirroredTerms(mirroredTerms({ 'arm:left.raise': 3, 'head.lean': 4, 'turn.x': 1 }))).toEqual({
      'arm:left.raise': 3,
      'head.lean': 4,
      'turn.x': 1,
    })
  })

  test('half as strong they go half as far, twice as fast they take half the time', () => {
    const puppet = person(HANGING)
    const whole = acting(puppet, 'shrug')
    const half = acting(puppet, 'shrug', { ...USUAL, strength: 0.5 })
    const at = (of: typeof whole, time: number): number => valuesInClip(of.puppet, of.clip, time)['bone/upper-arm-left/angle']!
    const time = Math.round(0.65 * 24) / 24
    expect(at(half, time)).toBeCloseTo(at(whole, time) / 2, 6)
    expect(acting(puppet, 'shrug', { ...USUAL, speed: 2 }).clip.length).toBeCloseTo(whole.clip.length / 2, 9)
  })

  test('say which roles are missing, and play what they can', () => {
    const { missing, clip } = bakeMotion(
      run(newPuppet('q', 'Q'), addBone, { id: 'head', name: 'Head', parent: null, start: { x: 5, y: 50 }, end: { x: 5, y: 5 }, colour: 1 }),
      motionOf('wave'),
      USUAL,
      'w',
    )
    expect(missing).toEqual(expect.arrayContaining(['arm:left', 'hips', 'chest']))
    expect(Object.keys(clip.layers[0]!.tracks)).toEqual(['bone/head/angle'])
    const nothing = bakeMotion(newPuppet('r', 'R'), motionOf('wave'), USUAL, 'w')
    expect(nothing.clip.poses).toEqual([])
  })
})

describe('the body of a puppet', () => {
  test('knows limbs by the names of bones, their sides and the way in which they bend', () => {
    const body = bodyOf(person(HANGING))
    expect([...body.limbs.keys()].sort()).toEqual(['arm:left', 'arm:right', 'leg:left', 'leg:right'])
    expect(body.limbs.get('arm:left')!.outwards).toBe(1)
    expect(body.limbs.get('arm:right')!.outwards).toBe(-1)
    expect(body.limbs.get('leg:left')!.bends).toBe(-1)
    expect(body.leg).toBeCloseTo(140, 0)
  })

  test('takes of angles that look alike the one that limits allow', () => {
    const bone = person(HANGING).bones['shin-left']!
    expect(withinLimits(bone, 300)).toBe(-60)
    expect(withinLimits(bone, 40)).toBe(5)
  })
})
