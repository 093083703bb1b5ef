/** Targets and constraints in the evaluation. */
import type { BonesFrame, BonesRig } from '../bones/stage'
import { poseBone } from '../bones/poseBone'
import type { SlotsRig } from '../kernel/slots'
import type { Stage } from '../kernel/stage'
import { compileConstraints, solveConstraints, targetPlaces, type ConstraintTable, type Scene } from './solve'

/** Constraints of a rig, beside the bones on which they act. */
export interface ConstraintsRig extends BonesRig, SlotsRig {
  readonly constraints: ConstraintTable
}

/** What of a frame constraints write. */
export interface ConstraintsFrame {
  /** What constraints look at. */
  readonly scene: Scene
  /** [3t] place and turn of each target, in the order of the document's targets */
  readonly targets: Float64Array
}

/** Lets constraints move the bones, in their order. */
export const constraintsStage: Stage<BonesRig & SlotsRig, Pick<ConstraintsRig, 'constraints'>, BonesFrame, ConstraintsFrame> = {
  name: 'constraints',
  after: ['slots', 'bones'],
  reads: ['targets', 'constraints'],
  compile: (puppet, { bones }) => ({ constraints: compileConstraints(puppet, bones) }),
  buffers: ({ bones, constraints: table, slots, restPose }, { skeleton }) => ({
    scene: { bones, table, slots, pose: restPose, frame: skeleton },
    targets: new Float64Array(3 * table.targets.parent.length),
  }),
}

/** Poses the bones of a frame alone: own values, motions, then what constraints make of them. */
export function poseBones(rig: ConstraintsRig, pose: Float64Array, frame: BonesFrame & ConstraintsFrame): void {
  const { bones, constraints } = rig
  const { skeleton } = frame
  for (let b = 0; b < bones.ids.length; b++) poseBone(bones, skeleton, pose, b)
  if (constraints.targets.parent.length === 0 && constraints.list.length === 0) return
  frame.scene.pose = pose
  solveConstraints(frame.scene)
  targetPlaces(frame.scene, frame.targets)
}
