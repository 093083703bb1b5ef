/** What the interface knows of all kinds of deformers: one line each. */
import type { Deformer } from '@marionette/core/deformers/records'
import { bendView } from './bend'
import { cageView } from './cage'
import { pinsView } from './pins'
import type { DeformerView } from './view'

export const DEFORMER_VIEWS = {
  cage: cageView,
  bend: bendView,
  pins: pinsView,
}

/** What the interface knows of a deformer. */
export const viewOf = (d: Pick<Deformer, 'kind'>): DeformerView<Deformer> => DEFORMER_VIEWS[d.kind] as unknown as DeformerView<Deformer>
