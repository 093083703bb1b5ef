/** Bones in the evaluation: their table and where they are. What poses them waits for what answers to the pose. */
import type { Stage } from '../kernel/stage'
import { compileBones, makeBoneFrame, type BoneFrame, type BoneTable } from './table'

/** Bones of a rig. */
export interface BonesRig {
  readonly bones: BoneTable
}

/** What bones do in a frame. */
export interface BonesFrame {
  /** What bones do, constraints included. */
  readonly skeleton: BoneFrame
  /** [6b] motion of each bone: rest canvas to posed canvas */
  readonly bones: Float64Array
}

/** Compiles bones and makes their buffers; what poses them runs later. */
export const bonesStage: Stage<object, BonesRig, object, BonesFrame> = {
  name: 'bones',
  reads: ['bones', 'skeleton'],
  compile: (puppet) => ({ bones: compileBones(puppet) }),
  buffers({ bones }) {
    const skeleton = makeBoneFrame(bones.ids.length)
    return { skeleton, bones: skeleton.motion }
  },
}
