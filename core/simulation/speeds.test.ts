import { expect, test } from 'vitest'
import { STILL } from '../kernel/stage'
import { compile } from '../puppet/compile'
import { evaluate, makeFrame, writePose } from '../puppet/evaluate'
import { armPuppet } from '../test/puppets'
import { heldMotion, MeasuredMotion } from './speeds'

const rig = compile(armPuppet())
const lower = rig.bones.index.get('lower')!
const NONE = new Map<string, number>()

/** Turns the lower bone in frames of a length, and returns the speed that is measured at the end. */
function turned(from: number, to: number, seconds: number, step: number): number {
  const [frame, motion, pose] = [makeFrame(rig), new MeasuredMotion(), new Float64Array(rig.restPose.length)]
  for (let time = 0; time <= seconds + 1e-9; time += step) {
    const angle = from + ((to - from) * time) / seconds
    evaluate(rig, writePose(rig, { 'bone/lower/angle': angle }, pose), frame)
    motion.follow(rig, frame, time, NONE)
  }
  return motion.speeds[lower]!
}

test('a bone that turns evenly comes to its speed, and to none when it stops', () => {
  const [frame, motion, pose] = [makeFrame(rig), new MeasuredMotion(), new Float64Array(rig.restPose.length)]
  const turnTo = (angle: number, time: number): boolean => {
    evaluate(rig, writePose(rig, { 'bone/lower/angle': angle }, pose), frame)
    return motion.follow(rig, frame, time, NONE)
  }
  expect(turnTo(-20, 1)).toBe(false)
  for (let k = 1; k <= 60; k++) expect(turnTo(-20 + 2 * k, 1 + k / 60)).toBe(true)
  expect(motion.speeds[lower]).toBeCloseTo(120, 0)
  let rests = 0
  for (let k = 61; k < 120; k++) rests += Number(!turnTo(100, 1 + k / 60))
  expect(rests).toBeGreaterThan(20)
  expect(motion.speeds[lower]).toBe(0)
})

test('the same motion gives the same speed at 12, 24 and 120 frames a second', () => {
  const speeds = [12, 24, 120].map((rate) => turned(0, 30, 0.25, 1 / rate))
  for (const speed of speeds) expect(speed).toBeCloseTo(speeds[0]!, 6)
})

test('over a pause nothing is measured', () => {
  const [frame, motion] = [makeFrame(rig), new MeasuredMotion()]
  evaluate(rig, rig.restPose, frame)
  motion.follow(rig, frame, 1, NONE)
  evaluate(rig, writePose(rig, { 'bone/lower/angle': 90 }, new Float64Array(rig.restPose.length)), frame)
  motion.follow(rig, frame, 3, NONE)
  expect(motion.speeds[lower]).toBe(0)
})

test('what is held takes the place of what is measured, and a frame has no speed without any', () => {
  const frame = makeFrame(rig)
  const motion = new MeasuredMotion()
  evaluate(rig, rig.restPose, frame)
  motion.follow(rig, frame, 1, new Map([['lower', 250]]))
  expect(motion.speeds[lower]).toBe(250)
  expect(heldMotion(rig, NONE)).toBe(null)
  expect(evaluate(rig, rig.restPose, frame, { time: null, simulation: heldMotion(rig, new Map([['lower', 80]])) }).speeds[lower]).toBe(80)
  expect(evaluate(rig, rig.restPose, frame, STILL).speeds[lower]).toBe(0)
})
