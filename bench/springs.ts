/** Springs: a frame of many, and looking for a moment far into a clip. */
import { addClip } from '@marionette/core/clips/commands'
import { newKey } from '@marionette/core/clips/edits'
import { newClip, newLayer } from '@marionette/core/clips/new'
import { nth } from '@marionette/core/kernel/sure'
import { STEP, STEP_SIZE } from '@marionette/core/maths/solve/oscillator'
import { clipSimulation } from '@marionette/core/playing/motionRun'
import { compile } from '@marionette/core/puppet/compile'
import { run } from '@marionette/core/puppet/edit'
import { evaluateBones, makeFrame } from '@marionette/core/puppet/evaluate'
import type { Puppet } from '@marionette/core/puppet/schema'
import { addSprings } from '@marionette/core/springs/commands'
import { stepSprings } from '@marionette/core/springs/motion'
import { characterOf } from '@marionette/core/springs/characters'
import { newSpringGroup } from '@marionette/core/springs/new'
import { SPRING_STATE } from '@marionette/core/springs/table'
import { generatePuppet, TYPICAL } from '@marionette/core/test/puppets'
import { measure, type Figure } from './measure'

const SPRINGS = 200
/** Steps of 1/240 s in a frame at 60 a second. */
const STEPS = 4

/** A puppet of so many bones of which all swing but the first of each chain. */
function sprung(bones: number): Puppet {
  const puppet = generatePuppet({ ...TYPICAL, bones })
  const swung = Object.values(puppet.bones).flatMap((bone) => (bone.parent === null ? [] : [bone.id]))
  return run(puppet, addSprings, { spring: newSpringGroup('all', 'All', swung, characterOf('hair')) })
}

/** One frame at 60 a second of 200 springs: four steps each, against the bare arithmetic of as many steps. */
export function springsFigure(): Figure {
  const rig = compile(sprung((SPRINGS * 6) / 5))
  const count = rig.springs.bone.length
  const frame = makeFrame(rig)
  evaluateBones(rig, rig.restPose, frame, { time: 0, simulation: null })
  const [state, offsets] = [new Float64Array(SPRING_STATE * count), new Float64Array(2 * count)]
  stepSprings(rig, frame, frame.values, 0, true, state, offsets)
  const angles = frame.skeleton.angle.slice()
  const { step } = rig.springs
  return measure(
    'springs-200',
    count,
    'four steps of each spring with its bone placed, a frame at 60 a second; against the bare numbers of as many steps',
    (i) => {
      for (let k = 0; k < STEPS; k++) {
        frame.skeleton.angle.set(angles)
        frame.skeleton.angle[0] = 20 * Math.sin((STEPS * i + k) * STEP * 9)
        stepSprings(rig, frame, frame.values, 1, false, state, offsets)
      }
    },
    () => {
      for (let k = 0; k < STEPS; k++)
        for (let s = 0; s < count; s++)
          for (let axis = 0; axis < 2; axis++) {
            const [at, m] = [SPRING_STATE * s + axis, STEP_SIZE * s]
            const [x, v, f] = [state[at]!, state[at + 2]!, state[at + 8]!]
            state[at] = step[m]! * x + step[m + 1]! * v + (step[m + 2]! + step[m + 3]!) * f
            state[at + 2] = step[m + 4]! * x + step[m + 5]! * v + (step[m + 6]! + step[m + 7]!) * f
          }
    },
  )
}

/** Looking for moments of a clip of a minute whose states are kept, and the first look at its end, in one line each. */
export function seekFigures(): Figure[] {
  const puppet = sprung(TYPICAL.bones)
  const roots = Object.values(puppet.bones).filter((bone) => bone.parent === null)
  const layer = newLayer('base', 'Base')
  for (const { id } of roots)
    layer.tracks[`bone/${id}/angle`] = {
      keys: Array.from({ length: 60 }, (_, k) => newKey(k, 30 * Math.sin(k * 2.1))),
      ...{ before: 'hold', after: 'hold' },
    }
  const acted = run(puppet, addClip, { clip: newClip('clip', 'Minute', { length: 60, layers: [layer] }) })
  const rig = compile(acted)
  const clip = nth(acted.clips, 0)
  const count = rig.springs.bone.length
  return [
    measure('seek-60s', count, 'moments all over a minute whose states are kept each half second', (i) => {
      clipSimulation(rig, clip, ((i * 37) % 60) + 0.49)
    }),
    measure(
      'seek-60s-first',
      count,
      'the end of a minute that nothing is known of: 14,400 steps, each with its pose',
      () => {
        clipSimulation(rig, { ...clip }, 60)
      },
      undefined,
      5,
    ),
  ]
}
