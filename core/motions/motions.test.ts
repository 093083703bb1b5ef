import { describe, expect, test } from 'vitest'
import { run } from '../puppet/edit'
import { brokenInvariants } from '../puppet/invariants'
import { addBone } from '../bones/commands'
import { addClip } from '../clips/commands'
import { channelOf } from '../puppet/channels'
import { posePuppet } from '../puppet/evaluate'
import { bonePoint } from '../puppet/probe'
import { newPuppet } from '../puppet/new'
import { mirroredPose } from '../puppet/mirror'
import { poseInClip, valuesInClip } from '../playing/clips'
import type { Puppet } from '../puppet/schema'
import { HANGING, person, SPREAD } from '../test/people'
import { bakeMotion } from './bake'
import { bodyOf } from './body'
import { mirroredTerms } from './motion'
import { PEOPLE } from './people'
import { withinLimits } from './resolve'

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
