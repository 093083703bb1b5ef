import { describe, expect, test } from 'vitest'
import { boneSlot } from '../bones/channels'
import { addBone } from '../bones/commands'
import { addClip } from '../clips/commands'
import { newKey } from '../clips/edits'
import { clipOf } from '../clips/lookup'
import { newClip, newLayer } from '../clips/new'
import { nth, sure } from '../kernel/sure'
import { applyEdits, run } from '../puppet/edit'
import type { Puppet } from '../puppet/schema'
import { addCollider, addSprings } from '../springs/commands'
import { characterOf } from '../springs/characters'
import { newCapsule, newSpringGroup } from '../springs/new'
import { armPuppet } from '../test/puppets'
import { bakeSpringsEdits } from './bakeSprings'
import { LiveMotion } from './liveMotion'
import { momentsOfClip } from './moments'
import { compile } from '../puppet/compile'

/** An arm with a swinging tassel at its end, waved in a clip. */
function waving(): Puppet {
  let puppet = armPuppet()
  puppet = run(puppet, addBone, { id: 'tassel', name: 'Tassel', parent: 'palm', start: { x: 340, y: 100 }, end: { x: 340, y: 160 } })
  puppet = run(puppet, addSprings, { spring: newSpringGroup('swing', 'Tassel', ['tassel'], characterOf('heavy')) })
  const layer = newLayer('base', 'Base')
  layer.tracks['bone/upper/angle'] = { keys: [newKey(0, 0), newKey(0.5, 50), newKey(1, -10), newKey(2, 0)], before: 'hold', after: 'hold' }
  return run(puppet, addClip, { clip: newClip('clip', 'Wave', { length: 3, layers: [layer] }) })
}

const tasselAt = (puppet: Puppet) => {
  const at = momentsOfClip(puppet, clipOf(puppet, 'clip'))
  return (time: number): number => {
    const { frame } = at(time)
    return nth(frame.skeleton.angle, sure(frame.rig.bones.index.get('tassel')))
  }
}

describe('baked springs', () => {
  test('play as they swung, within the tolerance, with fewer keys than frames', () => {
    const puppet = waving()
    const baked = applyEdits(puppet, bakeSpringsEdits(puppet, { clip: 'clip', spring: 'swing', layer: 'baked', tolerance: 0.5 })).puppet
    const [swung, keyed] = [tasselAt(puppet), tasselAt(baked)]
    for (let k = 0; k <= 72; k++) expect(Math.abs(keyed(k / 24) - swung(k / 24))).toBeLessThanOrEqual(0.5 + 1e-6)
    expect(Math.max(...Array.from({ length: 72 }, (_, k) => Math.abs(swung(k / 24))))).toBeGreaterThan(5)
    const { keys } = nth(clipOf(baked, 'clip').layers, -1).tracks['bone/tassel/angle']!
    expect(keys.length).toBeLessThan(50)
  })

  test('of a stretch leave the rest to the springs', () => {
    const puppet = waving()
    const stretch = { clip: 'clip', spring: 'swing', layer: 'baked', tolerance: 0, from: 0.5, to: 1 }
    const baked = applyEdits(puppet, bakeSpringsEdits(puppet, stretch)).puppet
    const [swung, keyed] = [tasselAt(puppet), tasselAt(baked)]
    for (const frame of [0, 6, 11, 12, 18, 24]) expect(keyed(frame / 24)).toBeCloseTo(swung(frame / 24), 6)
    // Let loose again they go on from where the keys left them, without a jump.
    const steps = (of: (time: number) => number): number =>
      Math.max(...Array.from({ length: 20 }, (_, k) => Math.abs(of((24 + k + 1) / 24) - of((24 + k) / 24))))
    expect(steps(keyed)).toBeLessThan(1.6 * steps(swung))
    expect(() => bakeSpringsEdits(puppet, { ...stretch, to: 0.5 })).toThrow('no frame')
  })
})

describe('springs of what is posed by hand', () => {
  test('swing after a pull, come to rest, and are the same however many pictures there were', () => {
    const rig = compile(waving())
    const at = (rate: number, seconds: number): { offset: number; isMoving: boolean } => {
      const live = new LiveMotion()
      const pose = rig.restPose.slice()
      let isMoving = live.follow(rig, pose, 0)
      for (let k = 1; k <= seconds * rate; k++) {
        pose[0] = 40 * Math.min(1, (2 * k) / rate)
        isMoving = live.follow(rig, pose, k / rate)
      }
      return { offset: sure(live.shown?.springs)[1]!, isMoving }
    }
    const [a, b] = [at(30, 1), at(60, 1)]
    expect(a.isMoving).toBe(true)
    expect(Math.abs(a.offset)).toBeGreaterThan(1)
    expect(a.offset).toBeCloseTo(b.offset, 1)
    expect(at(60, 12).isMoving).toBe(false)
  })

  test('keep to the hand that turns their own bone', () => {
    const rig = compile(waving())
    const live = new LiveMotion()
    const pose = rig.restPose.slice()
    live.follow(rig, pose, 0)
    const b = sure(rig.bones.index.get('tassel'))
    for (let k = 1; k <= 20; k++) {
      pose[boneSlot(b)] = 4 * k
      live.follow(rig, pose, k / 60)
      expect([...sure(live.shown?.springs)]).toEqual([0, 0])
    }
    // Let go, it hangs down again.
    for (let k = 21; k <= 200; k++) live.follow(rig, pose, k / 60)
    expect(Math.hypot(sure(live.shown?.springs)[0]!, sure(live.shown?.springs)[1]!)).toBeGreaterThan(1)
  })

  test('come to rest against a body, too', () => {
    let puppet = waving()
    puppet = run(puppet, addBone, { id: 'post', name: 'Post', parent: null, start: { x: 300, y: 300 }, end: { x: 300, y: 120 } })
    puppet = run(puppet, addCollider, { collider: newCapsule('body', 'Post', 'post', 35) })
    const rig = compile(puppet)
    const live = new LiveMotion()
    const pose = rig.restPose.slice()
    live.follow(rig, pose, 0)
    // The tassel is carried into the post, and pressed against it.
    pose[boneSlot(sure(rig.bones.index.get('upper'))) + 1] = -30
    let pictures = 0
    for (let k = 1; live.follow(rig, pose, k / 60) && k < 2000; k++) pictures = k
    expect(pictures).toBeGreaterThan(10)
    expect(pictures).toBeLessThan(900)
  })

  test('go on where they are while their numbers change', () => {
    const puppet = waving()
    const live = new LiveMotion()
    const rig = compile(puppet)
    const pose = rig.restPose.slice()
    live.follow(rig, pose, 0)
    pose[0] = 30
    live.follow(rig, pose, 1 / 30)
    const before = sure(live.shown?.springs).slice()
    expect(live.follow(compile(puppet), pose, 1 / 15)).toBe(true)
    expect(sure(live.shown?.springs)).toEqual(before)
  })
})
