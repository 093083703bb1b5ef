/** Strides: a frame of a creature that walks on eight legs. */
import { strideFor, withGait } from '@marionette/core/motions/strideOf'
import { nth } from '@marionette/core/kernel/sure'
import { SelfMotion } from '@marionette/core/playing/selfMotion'
import { addBone } from '@marionette/core/bones/commands'
import { compile } from '@marionette/core/puppet/compile'
import { run } from '@marionette/core/puppet/edit'
import { evaluateBones, makeFrame } from '@marionette/core/puppet/evaluate'
import { newPuppet } from '@marionette/core/puppet/new'
import type { Puppet } from '@marionette/core/puppet/schema'
import { addStride } from '@marionette/core/strides/commands'
import { gaitsFor } from '@marionette/core/strides/gaits'
import { measure, type Figure } from './measure'

const LEGS = 8
/** Steps of 1/240 s in a frame at 60 a second. */
const STEPS = 4

/** A body on eight legs of two bones and a foot. */
function creature(): Puppet {
  const bone = (
    puppet: Puppet,
    id: string,
    parent: string | null,
    from: readonly [number, number],
    to: readonly [number, number],
  ): Puppet =>
    run(puppet, addBone, { id, name: id.replace('-', ' '), parent, start: { x: from[0], y: from[1] }, end: { x: to[0], y: to[1] } })
  let puppet = bone(newPuppet('eight', 'Eight'), 'body', null, [300, 400], [600, 400])
  for (let k = 0; k < LEGS; k++) {
    const x = 320 + 80 * Math.floor(k / 2)
    puppet = bone(puppet, `leg-${k}`, 'body', [x, 400], [x - 20, 500])
    puppet = bone(puppet, `shin-${k}`, `leg-${k}`, [x - 20, 500], [x, 600])
    puppet = bone(puppet, `foot-${k}`, `shin-${k}`, [x, 600], [x + 30, 610])
  }
  return puppet
}

/** One frame at 60 a second of eight legs that walk: four steps and the pose of all bones; against the pose of the same bones alone. */
export function strideFigure(): Figure {
  const puppet = creature()
  const stride = { ...withGait(puppet, strideFor(puppet, 'stride', 'Walk'), nth(gaitsFor(LEGS), 0)), speed: 1, travels: true }
  const rig = compile(run(puppet, addStride, { stride }))
  const frame = makeFrame(rig)
  const motion = new SelfMotion(rig)
  motion.step(rig.restPose, { time: 0, wind: 0, isFirst: true })
  return measure(
    'stride-8',
    LEGS,
    'four steps of eight legs and the pose of all bones, a frame at 60 a second; against the pose of the same bones that do not walk',
    () => {
      for (let k = 0; k < STEPS; k++) motion.step(rig.restPose, { time: 0, wind: 0, isFirst: false })
      evaluateBones(rig, rig.restPose, frame, { time: 0, simulation: motion.shown() })
    },
    () => evaluateBones(rig, rig.restPose, frame, { time: 0, simulation: null }),
  )
}
