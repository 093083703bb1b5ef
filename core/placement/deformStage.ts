/** Deformers in the evaluation, and the ways that lead points of parts to the posed canvas. */
import type { BonesFrame, BonesRig } from '../bones/stage'
import { makeShape } from '../deformers/kinds'
import { handlesOf } from '../deformers/records'
import { familyOf, type SlotsRig } from '../kernel/slots'
import type { Stage } from '../kernel/stage'
import type { Puppet } from '../puppet/schema'
import { type DeformChain, type EvaluationState } from './deformChain'
import { deformChainOf, type RigDeformer, type Ways } from './deformChains'
import type { PartsFrame, PartsRig } from './partsStage'

/** Deformers of a rig. */
export interface DeformRig {
  readonly deformers: readonly RigDeformer[]
  /** What ways are made from. */
  readonly ways: Ways
  /** The way of a part's points to the posed canvas. */
  readonly deformChains: (part: number) => DeformChain
}

/** What of a frame deformers write. */
export interface DeformFrame {
  /** What ways look at. */
  readonly evaluation: EvaluationState
}

/** Compiles what bends each part, and readies it for a pose. */
export const deformStage: Stage<BonesRig & SlotsRig & PartsRig, DeformRig, BonesFrame & PartsFrame, DeformFrame> = {
  name: 'deformers',
  after: ['slots', 'bones', 'parts'],
  reads: ['parts'],
  compile(puppet, rig) {
    const deformers = compileDeformers(puppet, rig)
    const shapes = deformers.map(({ source }) => makeShape(source))
    const ways: Ways = { puppet, parts: rig.placed, table: rig.parts, bones: rig.bones, deformers, shapes, known: new Map() }
    return { deformers, ways, deformChains: (part) => deformChainOf(ways, part) }
  },
  buffers: ({ bones, parts, deformers }, { skeleton, world, local }) => ({
    evaluation: {
      ...{ local, world },
      anchors: new Float64Array(6 * parts.ids.length),
      ...{ motion: skeleton.motion, rigid: skeleton.rigid, stretch: skeleton.stretch, drawn: skeleton.drawn },
      shapes: deformers.map(({ source }) => makeShape(source)),
      acting: new Uint8Array(deformers.length),
      maps: new Float64Array(6 * Math.max(1, bones.ids.length)),
      scratch: new Map(),
    },
  }),
}

function compileDeformers(puppet: Puppet, { parts: table, slots }: PartsRig & SlotsRig): RigDeformer[] {
  const [deformer, handle] = [familyOf(slots, 'deformer'), familyOf(slots, 'handle')]
  return Object.values(puppet.parts).flatMap((part) =>
    part.deformers.map((source): RigDeformer => {
      const own = deformer.base + deformer.index.get(source.id)! * deformer.stride
      // Handles of one deformer stand in a row.
      const handles = handle.base + (handle.index.get(handlesOf(source)[0] ?? '') ?? 0) * handle.stride
      return { source, part: table.index.get(part.id)!, slots: { own, handles, stride: handle.stride } }
    }),
  )
}

type Deforming = DeformFrame & { readonly values: Float64Array }

/** Deformers take their values from the pose and all that values to it. */
export const deformingStage: Stage<DeformRig, object, Deforming, object> = {
  name: 'deforming',
  run({ deformers }, { evaluation, values }) {
    for (let s = 0; s < deformers.length; s++) evaluation.acting[s] = Number(evaluation.shapes[s]!.pose(values, deformers[s]!.slots))
  },
}
