/** The stages of evaluation in their order: each finds made and run what it needs. */
import { flipbookStage } from '../alternates/flipbookStage'
import { alternatesStage, morphingStage } from '../alternates/stage'
import { bonesStage } from '../bones/stage'
import { constraintsStage } from '../constraints/stage'
import type { Stage } from '../kernel/stage'
import { anchorStage } from '../placement/anchorStage'
import { bendStage, reshapeStage } from '../placement/bendStage'
import { deformingStage, deformStage } from '../placement/deformStage'
import { partsStage, placingStage } from '../placement/partsStage'
import { poseStage } from '../poses/stage'
import { answeringStage, responsesStage } from '../responses/stage'
import { drawingsStage, paintStage } from './drawings'
import type { Frame } from './frame'
import type { Rig } from './rig'
import { springsStage } from '../springs/stage'
import { idleStage } from '../idle/stage'
import { stridesStage } from '../strides/stage'
import { slotsStage } from './slots'

/** Stages of evaluation in the order in which they run. */
export const STAGES: readonly Stage<Rig, Partial<Rig>, Frame, Partial<Frame>>[] = [
  // 1 the pose: where each channel stands in it
  slotsStage,
  bonesStage,
  partsStage,
  deformStage,
  drawingsStage,
  constraintsStage,
  responsesStage,
  poseStage,
  // what lives and walks by itself under the pose
  idleStage,
  stridesStage,
  flipbookStage,
  // 2 to 4 controls, responses and corrections; bones, limits and constraints
  answeringStage,
  // 5 springs: where simulated motion has brought them
  springsStage,
  // 6 world matrices of parts
  placingStage,
  // 7 for each part: alternates, deformers, skin, moved points
  alternatesStage,
  deformingStage,
  anchorStage,
  bendStage,
  reshapeStage,
  morphingStage,
  // 8 the paint list
  paintStage,
]
