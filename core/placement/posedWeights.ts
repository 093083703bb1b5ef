/** Weights made visible: fields in their posed place, and the bone that moves a point most. */
import type { PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { affineAt, apply, IDENTITY, invert, multiply } from '../maths/geometry/affine'
import { centresOf } from '../binds/centres'
import { mapped } from './deformChain'
import { INFLUENCES, skinLinear, skinVolume } from '../binds/skin'
import type { Bind, WeightField } from '../binds/records'
import type { BonesFrame, BonesRig } from '../bones/stage'
import type { RigBase } from '../kernel/stage'
import type { DrawingsRig, DrawingsFrame } from './bendStage'
import type { PartsFrame, PartsRig } from './partsStage'

/** What of a rig and of a frame says where weighed points are. */
type Rig = RigBase & BonesRig & PartsRig & DrawingsRig & { readonly shown: number }
type Frame = BonesFrame & PartsFrame & DrawingsFrame
import type { Tessellation } from './tessellate'

/** A bind to several bones. */
export type Blended = Extract<Bind, { kind: 'blended' }>

/** Bind of a part, if it is blended. */
export const blendedOf = (puppet: Pick<Puppet, 'parts'>, part: PartId): Blended | null => {
  const bind = puppet.parts[part]?.bind
  return bind?.kind === 'blended' ? bind : null
}

interface Influences {
  readonly offsets: Int32Array
  readonly weights: Float64Array
}

const INFLUENCES_OF = new WeakMap<WeightField, Influences>()

/** Rows of a field as four influences each; places in `maps` as the kernels take them. Kept: the overlay asks with every frame. */
function influencesOf(field: WeightField): Influences {
  const known = INFLUENCES_OF.get(field)
  if (known) return known
  const n = field.vertices.length / 2
  const offsets = new Int32Array(INFLUENCES * n)
  const weights = new Float64Array(INFLUENCES * n)
  for (let v = 0; v < n; v++) {
    for (let k = 0, from = field.starts[v]!; k < INFLUENCES && from + k < field.starts[v + 1]!; k++) {
      offsets[INFLUENCES * v + k] = 6 * field.bones[from + k]!
      weights[INFLUENCES * v + k] = field.weights[from + k]!
    }
  }
  const made = { offsets, weights }
  INFLUENCES_OF.set(field, made)
  return made
}

/**
 * The vertices of a bind's weight field where they are in a frame.
 *
 * @param part index of the part that holds the bind
 * @returns [2n] canvas px
 */
export function posedField(rig: Rig, frame: Frame, part: number, bind: Blended): Float64Array {
  const { field } = bind
  const { offsets, weights } = influencesOf(field)
  const motions = Float64Array.from(
    bind.bones.flatMap((id) => {
      const at = 6 * rig.bones.index.get(id)!
      return [...(bind.mode === 'volume' ? frame.skeleton.rigid : frame.bones).subarray(at, at + 6)]
    }),
  )
  const rest = Float64Array.from(field.vertices)
  const out = new Float64Array(rest.length)
  if (bind.mode === 'volume') skinVolume(rest, centresOf(field, bind.bones.length), offsets, weights, motions, frame.world, 6 * part, out)
  else {
    const placed = mapped(affineAt(frame.world, 6 * part), rest)
    skinLinear(placed, offsets, weights, motions, out)
  }
  return out
}

/** Weight of one bone of a bind at each vertex of its field [n]. */
export function weightsOfBone(field: WeightField, bone: number): Float64Array {
  const n = field.vertices.length / 2
  const out = new Float64Array(n)
  for (let v = 0; v < n; v++)
    for (let k = field.starts[v]!; k < field.starts[v + 1]!; k++) if (field.bones[k] === bone) out[v] = field.weights[k]!
  return out
}

/** The bone (by rig index) that moves a sample most, or the one that carries the part; -1 for none. */
export function strongestBone({ chain: deformChain, fixed }: Tessellation, sample: number): number {
  if (!deformChain.blend) return deformChain.bone
  return deformChain.blend.bones[fixed.weights!.offsets[INFLUENCES * sample]! / 6]!
}

/** Points of a drawing with the bone (by rig index, -1 for none) that moves each most; canvas px. */
export function pointsByBone(rig: Rig, frame: Frame, d: number): { x: number; y: number; bone: number }[] {
  const { tessellation: soft, part, drawing } = rig.drawings[d]!
  const posed = frame.bent[d] === 1 ? frame.points[d] : null
  if (soft && posed)
    return Array.from(soft.bent.drawn, (i) => ({ x: posed[2 * i]!, y: posed[2 * i + 1]!, bone: strongestBone(soft, soft.bent.anchor[i]!) }))
  const m = frame.parts.subarray(6 * part, 6 * part + 6)
  const bone = rig.parts.bone[part]!
  return drawing.shapes.flatMap((shape) =>
    shape.paths.flatMap(({ anchors, ids }) =>
      ids.map((_, i) => {
        const x = anchors[2 * i]!
        const y = anchors[2 * i + 1]!
        return { x: m[0]! * x + m[2]! * y + m[4]!, y: m[1]! * x + m[3]! * y + m[5]!, bone }
      }),
    ),
  )
}

/**
 * Points of the drawings that go by a blended bind, as they are seen in a frame and where they lie in the space of the part
 * that holds it; [2m] each.
 *
 * @param holder index of that part
 */
export function drawnPoints(rig: Rig, frame: Frame, holder: number): { readonly seen: number[]; readonly own: number[] } {
  const seen: number[] = []
  const own: number[] = []
  const back = invert(affineAt(rig.parts.rest, 6 * holder)) ?? IDENTITY
  rig.drawings.slice(0, rig.shown).forEach(({ tessellation: soft, part, geometry, picture }, d) => {
    const posed = frame.bent[d] === 1 ? frame.points[d] : null
    if (!soft?.chain.blend || picture || !posed || holderOf(rig, part) !== holder) return
    const toHolder = multiply(back, affineAt(rig.parts.rest, 6 * part))
    for (const i of soft.bent.drawn) {
      const at = apply(toHolder, { x: geometry.points[2 * i]!, y: geometry.points[2 * i + 1]! })
      own.push(at.x, at.y)
      seen.push(posed[2 * i]!, posed[2 * i + 1]!)
    }
  })
  return { seen, own }
}

/** The part whose bind a part goes by. */
export function holderOf({ parts, puppet }: Pick<Rig, 'parts' | 'puppet'>, part: number): number {
  let p = part
  while (p > 0 && puppet.parts[parts.ids[p]!]!.bind === null) p = parts.carrier[p]!
  return p
}

const STRONGEST = new WeakMap<WeightField, Int32Array>()

/** The bone of a bind, by its place there, that pulls each vertex of its field most [n]. Kept with the field. */
export function strongestOf(field: WeightField): Int32Array {
  const known = STRONGEST.get(field)
  if (known) return known
  const out = new Int32Array(field.vertices.length / 2)
  for (let v = 0; v < out.length; v++) {
    let best = field.starts[v]!
    for (let k = best; k < field.starts[v + 1]!; k++) if (field.weights[k]! > field.weights[best]!) best = k
    out[v] = field.bones[best] ?? 0
  }
  STRONGEST.set(field, out)
  return out
}
