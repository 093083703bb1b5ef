/** Alternates in the evaluation: which one shows, before drawings are posed, and what lies between two, after it. */
import type { SlotsRig } from '../kernel/slots'
import type { Stage } from '../kernel/stage'
import type { DrawingsRig } from '../placement/bendStage'
import type { PartsRig } from '../placement/partsStage'
import type { MorphingFrame, SwapsFrame, SwapsRig } from './frame'
import { chooseAlternates, compileSwaps, makeMorphs, morphAlternates } from './swaps'

/** Decides which alternate of each part shows, before drawings are posed. */
export const alternatesStage: Stage<PartsRig & SlotsRig & DrawingsRig, SwapsRig, MorphingFrame, SwapsFrame> = {
  name: 'alternates',
  after: ['slots', 'parts', 'drawings'],
  reads: ['parts'],
  compile: (puppet, { parts, slots, drawings }) => ({ swaps: compileSwaps(puppet, parts.index, slots, drawings) }),
  buffers: ({ swaps, drawings }) => ({ morphs: makeMorphs(swaps.length, drawings.length) }),
  run(_, frame) {
    chooseAlternates(frame)
  },
}

/** Writes what lies between two alternates, after drawings were posed. */
export const morphingStage: Stage<SwapsRig, object, MorphingFrame, object> = {
  name: 'morphing',
  run({ swaps }, frame) {
    if (swaps.length > 0) morphAlternates(frame)
  },
}
