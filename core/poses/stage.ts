/** The pose in the evaluation: what channels are set to, before anything values to it. */
import type { Stage } from '../kernel/stage'

interface Posed {
  readonly values: Float64Array
}

/** Takes the pose into the values of a frame. */
export const poseStage: Stage<object, object, Posed, object> = {
  name: 'pose',
  run(_, { values }, pose) {
    values.set(pose)
    if (values.length > pose.length) values.fill(0, pose.length)
  },
}
