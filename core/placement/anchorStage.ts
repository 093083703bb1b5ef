/** Parts that hang on other parts: they go along with what becomes of the spot where they hang. */
import type { Stage } from '../kernel/stage'
import { compose, runDeformChain } from './deformChain'
import { BESIDE, compileAnchors, type RigAnchor } from './deformChains'
import type { DeformFrame, DeformRig } from './deformStage'
import type { PartsFrame, PartsRig } from './partsStage'

/** Parts of a rig that are attached to other parts. */
export interface AnchorsRig {
  /** In an order in which each finds placed what it hangs on. */
  readonly anchors: readonly RigAnchor[]
}

/** Moves attached parts with what they are attached to. */
export const anchorStage: Stage<DeformRig & PartsRig, AnchorsRig, DeformFrame & PartsFrame, object> = {
  name: 'anchors',
  after: ['deformers'],
  reads: ['parts'],
  compile: (_, { ways }) => ({ anchors: compileAnchors(ways) }),
  run({ anchors, parts: { anchor } }, frame) {
    for (let a = 0; a < anchors.length; a++) placeAnchor(frame, anchors[a]!)
    if (anchors.length === 0) return
    const { world, parts, evaluation } = frame
    for (let p = 0; p < anchor.length; p++) if (anchor[p]! >= 0) compose(evaluation.anchors, 6 * anchor[p]!, world, 6 * p, parts, 6 * p)
  },
}

const probe = new Float64Array(6)

/**
 * The motion of what hangs on another part, from what became of its spot and of two steps beside it: its shift alone, with
 * its turn, or with all that the surface does there.
 */
function placeAnchor(frame: DeformFrame, { part, how, chain: deformChain, spots, fixed, at }: RigAnchor): void {
  probe.set(spots)
  runDeformChain(frame.evaluation, deformChain, fixed, probe, probe)
  const { anchors } = frame.evaluation
  const k = 6 * part
  anchors[k] = how === 'pivoting' ? 1 : (probe[2]! - probe[0]!) / BESIDE
  anchors[k + 1] = how === 'pivoting' ? 0 : (probe[3]! - probe[1]!) / BESIDE
  anchors[k + 2] = how === 'pivoting' ? 0 : (probe[4]! - probe[0]!) / BESIDE
  anchors[k + 3] = how === 'pivoting' ? 1 : (probe[5]! - probe[1]!) / BESIDE
  if (how === 'carried') keepTurn(anchors, k)
  anchors[k + 4] = probe[0]! - anchors[k]! * at[0] - anchors[k + 2]! * at[1]
  anchors[k + 5] = probe[1]! - anchors[k + 1]! * at[0] - anchors[k + 3]! * at[1]
}

/** Replaces what a map does to directions by the turn that is nearest to it. */
function keepTurn(m: Float64Array, k: number): void {
  const cos = m[k]! + m[k + 3]!
  const sin = m[k + 1]! - m[k + 2]!
  const size = Math.sqrt(cos * cos + sin * sin)
  m[k] = size > 1e-12 ? cos / size : 1
  m[k + 1] = size > 1e-12 ? sin / size : 0
  m[k + 2] = -m[k + 1]!
  m[k + 3] = m[k]!
}
