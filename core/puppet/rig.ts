/** The rig: a puppet as typed arrays, the tables of all stages together. */
import type { FlipbooksRig } from '../alternates/flipbookStage'
import type { SwapsRig } from '../alternates/frame'
import type { PartId } from '../kernel/ids'
import type { RigBase } from '../kernel/stage'
import type { ConstraintsRig } from '../constraints/stage'
import type { AnchorsRig } from '../placement/anchorStage'
import type { DeformRig } from '../placement/deformStage'
import type { PartsRig } from '../placement/partsStage'
import type { ResponsesRig } from '../responses/stage'
import type { IdleRig } from '../idle/stage'
import type { StridesRig } from '../strides/stage'
import type { SpringsRig } from '../springs/motion'
import type { PaintList } from './paintList'

/** A puppet compiled for evaluation: what each stage adds. */
export interface Rig
  extends
    RigBase,
    ConstraintsRig,
    PartsRig,
    DeformRig,
    PaintList,
    AnchorsRig,
    ResponsesRig,
    SwapsRig,
    FlipbooksRig,
    SpringsRig,
    IdleRig,
    StridesRig {}

/** Number of the drawing that a part itself shows; -1 where it shows none. */
export const drawingOfPart = ({ drawings, parts }: Pick<Rig, 'drawings' | 'parts'>, part: PartId): number => {
  const at = parts.index.get(part)
  return drawings.findIndex((d) => d.part === at)
}
