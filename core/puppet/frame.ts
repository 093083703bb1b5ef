/** Frames: a puppet in a pose, the buffers of all stages together. */
import type { SwapsFrame } from '../alternates/frame'
import type { BonesFrame } from '../bones/stage'
import type { ConstraintsFrame } from '../constraints/stage'
import type { Affine } from '../kernel/numbers'
import { affineAt } from '../maths/geometry/affine'
import { isAny, type DrawingsFrame } from '../placement/bendStage'
import type { DeformFrame } from '../placement/deformStage'
import type { PartsFrame } from '../placement/partsStage'
import type { ResponsesFrame } from '../responses/frame'
import type { IdleFrame } from '../idle/stage'
import type { StridesFrame } from '../strides/stage'
import type { SpringsFrame } from '../springs/stage'
import type { PaintFrame } from './drawings'
import type { Rig } from './rig'
import { sure } from '../kernel/sure'

/** Everything that an evaluation writes: what each stage adds, in one object that is used again. */
export interface Frame
  extends
    BonesFrame,
    ConstraintsFrame,
    PartsFrame,
    DeformFrame,
    DrawingsFrame,
    PaintFrame,
    ResponsesFrame,
    SwapsFrame,
    SpringsFrame,
    IdleFrame,
    StridesFrame {
  readonly rig: Rig
  /** Grows with every evaluation. */
  revision: number
}

/** The map of a part of the table in a frame: from its own space to the canvas, but for the bends of what is blended. */
export const partMap = ({ parts }: Frame, p: number): Affine => affineAt(parts, 6 * p)

/** Whether responses move points of a drawing in a frame. */
export const isReshaped = ({ rig, values: answers }: Frame, d: number): boolean =>
  rig.responses.reshapes.some(({ drawing, base, length }) => drawing === d && isAny(answers, base, length))

/** Where a target is in a frame, with its turn in degrees. */
export function targetPlace(frame: Frame, target: string): { x: number; y: number; turn: number } {
  const t = 3 * sure(frame.rig.constraints.targets.index.get(target))
  return { x: frame.targets[t]!, y: frame.targets[t + 1]!, turn: frame.targets[t + 2]! }
}
