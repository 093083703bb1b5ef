/** Idle life: told by its seed and the time alone, still at its beginning, and under whatever is posed. */
import { expect, test } from 'vitest'
import { addClip } from '../clips/commands'
import { newClip } from '../clips/new'
import { nth, sure } from '../kernel/sure'
import { idleFor } from '../motions/idleOf'
import { strideFor } from '../motions/strideOf'
import { momentsOfClip } from '../playing/moments'
import { run } from '../puppet/edit'
import { addStride } from '../strides/commands'
import { bonePoint } from '../puppet/probe'
import { poseRig } from '../puppet/evaluate'
import { compile } from '../puppet/compile'
import { DEMOS } from '@marionette/demo/demos'
import { addIdle, deleteIdle, idleOf, setIdle } from './commands'
import { blinkAt, breathAt, glanceAt, shiftAt } from './life'

const marlo = sure(DEMOS['marlo'])().puppet
const idle = idleFor(marlo, 'idle', 'Idle')
const times = Array.from({ length: 3000 }, (_, k) => k / 50)

test('it is found: what breathes, blinks and glances', () => {
  expect(idle.breath.chest).not.toBeNull()
  expect(idle.breath.shoulders).toHaveLength(2)
  expect(idle.blink.channel).toContain('control/')
  expect(idle.glance.far).toBeGreaterThan(0)
})

test('breath goes in sooner than out, from nothing and back', () => {
  const values = times.map((time) => breathAt({ rate: 15 }, time))
  expect(values[0]).toBe(0)
  expect(Math.max(...values)).toBeCloseTo(1, 3)
  expect(breathAt({ rate: 15 }, 4)).toBeCloseTo(0, 9)
  expect(breathAt({ rate: 15 }, 0.42 * 4)).toBeCloseTo(1, 9)
})

test('blinks, glances and shifts come at moments of their own, smoothly, and begin at rest', () => {
  const blinks = times.map((time) => blinkAt(idle, time))
  const shut = blinks.filter((v, k) => v < 0.9 && (blinks[k + 1] ?? 0) >= 0.9).length
  expect(shut).toBeGreaterThan(60 / 3.6 - 4)
  expect(shut).toBeLessThan(60 / 3.6 + 4)
  for (const wander of [(t: number) => glanceAt(idle, t, 0), (t: number) => glanceAt(idle, t, 1), (t: number) => shiftAt(idle, t)]) {
    const values = times.map(wander)
    expect(values[0]).toBe(0)
    expect(Math.max(...values.map(Math.abs))).toBeGreaterThan(0.2)
    expect(Math.max(...values.map(Math.abs))).toBeLessThanOrEqual(1)
    // No step of more than what the quickest glance makes in a fiftieth of a second.
    expect(Math.max(...values.map((v, k) => Math.abs(v - (values[k - 1] ?? v))))).toBeLessThan(0.6)
  }
  const other = { ...idle, seed: 2 }
  expect(times.map((time) => blinkAt(other, time))).not.toEqual(blinks)
})

test('in a clip feet stay where they stand while weight is shifted', () => {
  let puppet = run(marlo, addIdle, { idle: { ...idle, shift: { ...idle.shift, far: 20 } } })
  puppet = run(puppet, addStride, { stride: strideFor(puppet, 'stride', 'Walk') })
  puppet = run(puppet, addClip, { clip: newClip('clip', 'Clip', { length: 30 }) })
  const at = momentsOfClip(puppet, nth(puppet.clips, -1))
  const still = poseRig(compile(puppet), {})
  const named = (name: string): number => {
    const { id } = sure(Object.values(puppet.bones).find((bone) => bone.name === name))
    return sure(still.rig.bones.index.get(id))
  }
  let most = 0
  for (let t = 0; t < 30; t += 0.5) {
    const { frame } = at(t)
    for (const foot of ['Foot left', 'Foot right'].map(named)) {
      const [now, rest] = [bonePoint(frame, foot, 0), bonePoint(still, foot, 0)]
      expect(Math.hypot(now.x - rest.x, now.y - rest.y)).toBeLessThan(0.5)
    }
    most = Math.max(most, Math.abs(bonePoint(frame, named('Hips'), 0).x - bonePoint(still, named('Hips'), 0).x))
  }
  expect(most).toBeGreaterThan(3)
})

test('it is changed and taken away; what is not there is refused', () => {
  const puppet = run(marlo, addIdle, { idle })
  expect(idleOf(run(puppet, setIdle, { id: 'idle', seed: 7 }), 'idle').seed).toBe(7)
  expect(() => run(puppet, setIdle, { id: 'idle', breath: { ...idle.breath, belly: 'nobody' } })).toThrow('no bone "nobody"')
  expect(run(puppet, deleteIdle, { id: 'idle' }).idles).toEqual([])
  expect(() => run(marlo, deleteIdle, { id: 'idle' })).toThrow('no idle life')
})
