/**
 * Springs in the evaluation: bones that were posed are led by what swings of them. How it swings is simulated apart (playing/motionRun.ts);
 * where nothing is simulated springs hang as they come to rest in the pose, without wind.
 */
import type { BonesFrame, BonesRig } from '../bones/stage'
import type { SlotsRig } from '../kernel/slots'
import type { Stage } from '../kernel/stage'
import { applySprings, stepSprings, type SpringOffsets, type SpringsRig, type SpringState } from './motion'
import { compileSprings, SPRING_STATE } from './table'

export interface SpringsFrame {
  /** Springs as they hang at rest in the pose. */
  readonly hanging: { readonly state: SpringState; readonly offsets: SpringOffsets }
}

type Uses = BonesFrame & { readonly values: Float64Array }

export const springsStage: Stage<BonesRig & SlotsRig, SpringsRig, Uses, SpringsFrame> = {
  name: 'springs',
  after: ['slots', 'bones'],
  reads: ['springs', 'wind', 'colliders'],
  compile: (puppet, { bones, slots }) => ({ springs: compileSprings(puppet, bones, slots) }),
  buffers({ springs }) {
    const count = springs.bone.length
    return { hanging: { state: new Float64Array(SPRING_STATE * count), offsets: new Float64Array(2 * count) } }
  },
  run(rig, frame, _, { simulation }) {
    const count = rig.springs.bone.length
    if (count === 0) return
    const offsets = simulation?.springs
    if (offsets?.length === 2 * count) applySprings(rig, frame, frame.values, offsets)
    else stepSprings(rig, frame, frame.values, 0, true, frame.hanging.state, frame.hanging.offsets)
  },
}
