/** All kinds of deformers: one line each. */
import { bendKind } from './bend'
import { cageKind } from './cage'
import { pinsKind } from './pins'

/** Every kind of deformer, by name. What all share loops over this table. */
export const DEFORMER_KINDS = {
  cage: cageKind,
  bend: bendKind,
  pins: pinsKind,
}
