import { expect, test } from 'vitest'
import { compile } from '@marionette/core/rig/compile'
import { evaluate, makeFrame, writePose } from '@marionette/core/rig/evaluate'
import { armPuppet } from '@marionette/core/test/puppets'
import { holdSpeedsOf, releaseSpeeds, SpeedMeter, writeSpeeds } from './speeds'

const rig = compile(armPuppet())
const lower = rig.bones.index.get('lower')!

test('a bone that turns evenly comes to its speed, and to none when it stops', () => {
  const frame = makeFrame(rig)
  const pose = new Float64Array(rig.restPose.length)
  const meter = new SpeedMeter()
  const turnTo = (angle: number, time: number): boolean => {
    evaluate(rig, writePose(rig, { 'bone/lower/angle': angle }, pose), frame)
    return meter.follow(frame, time)
  }
  expect(turnTo(-20, 1)).toBe(false)
  for (let k = 1; k <= 60; k++) expect(turnTo(-20 + 2 * k, 1 + k / 60)).toBe(true)
  expect(frame.speeds[lower]).toBeCloseTo(120, 0)
  let rests = 0
  for (let k = 61; k < 120; k++) rests += Number(!turnTo(100, 1 + k / 60))
  expect(rests).toBeGreaterThan(20)
  expect(frame.speeds[lower]).toBe(0)
})

test('over a pause nothing is measured; what a stop listens to is held', () => {
  const frame = makeFrame(rig)
  const meter = new SpeedMeter()
  evaluate(rig, rig.restPose, frame)
  meter.follow(frame, 1)
  evaluate(rig, writePose(rig, { 'bone/lower/angle': 90 }, new Float64Array(rig.restPose.length)), frame)
  meter.follow(frame, 3)
  expect(frame.speeds[lower]).toBe(0)
  holdSpeedsOf({ inputs: [{ kind: 'speed', bone: 'lower' }] }, [250])
  writeSpeeds(frame)
  expect(frame.speeds[lower]).toBe(250)
  releaseSpeeds()
})
