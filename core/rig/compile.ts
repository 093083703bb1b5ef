/**
 * compile(puppet) -> Rig: the document as typed arrays, made once per structural change.
 *
 * Everything that depends on one drawing or one bind is remembered under that object. Documents share what did not
 * change, so compiling again after an edit redoes only what the edit touched; a pose alone recompiles nothing.
 */
import { BONE_FIELDS, PART_FIELDS, restOf } from '../document/channels'
import type { BoneId, PartId } from '../document/ids'
import type { Affine, Bind, Drawing, Part, Puppet } from '../document/schema'
import { bonesInOrder } from '../document/tree'
import { IDENTITY, invert, multiply, placementMatrix } from '../geometry/affine'
import { samplerOf } from './field'
import { bentGeometry, rigidGeometry, type Geometry } from './geometry'
import { writePaintList, type PaintList } from './paintList'
import { INFLUENCES } from './skin'

/** Fields stored for each bone and part in a pose array, in the order of the channel table. */
const BONE_STRIDE = BONE_FIELDS.length
const PART_STRIDE = PART_FIELDS.length

export interface BoneTable {
  readonly ids: readonly BoneId[]
  readonly index: ReadonlyMap<BoneId, number>
  /** [b] index of the parent, -1 for a root; parents come first */
  readonly parent: Int32Array
  /** [2b] rest, canvas px */
  readonly start: Float64Array
  readonly end: Float64Array
  /** [b] degrees; infinite where there is no limit */
  readonly min: Float64Array
  readonly max: Float64Array
}

export interface PartTable {
  readonly ids: readonly PartId[]
  readonly index: ReadonlyMap<PartId, number>
  /** [p] index of the parent, -1 for the root; parents come first */
  readonly parent: Int32Array
  /** [6p] map of the home alone */
  readonly home: Float64Array
  /** [2p] */
  readonly pivot: Float64Array
  /** [p] of the document, without the channel */
  readonly opacity: Float64Array
  /** [p] the bone that carries the part whole, or -1 */
  readonly bone: Int32Array
}

/** How a drawing that bends is skinned. */
export interface Skin {
  /** [k] bone table indices of the bind */
  readonly bones: Int32Array
  /** [4n] six times the position in `bones` */
  readonly offsets: Int32Array
  /** [4n] */
  readonly weights: Float64Array
}

export interface RigDrawing {
  readonly part: number
  readonly drawing: Drawing
  readonly geometry: Geometry
  readonly skin: Skin | null
}

export interface Rig extends PaintList {
  readonly puppet: Puppet
  readonly bones: BoneTable
  readonly parts: PartTable
  /** Pose in which everything is at rest. */
  readonly restPose: Float64Array
}

/** Where the angle of a bone stands in a pose array. */
export const boneSlot = (bone: number): number => bone * BONE_STRIDE
/** Where the fields of a part start in a pose array. */
export const partSlot = (rig: Pick<Rig, 'bones'>, part: number): number => rig.bones.ids.length * BONE_STRIDE + part * PART_STRIDE

export function compile(puppet: Puppet): Rig {
  const bones = compileBones(puppet)
  const parts = collectParts(puppet)
  const table = compileParts(parts, bones)
  const list = writePaintList(puppet, parts, table.index, (at, drawing) => compileDrawing(at, parts[at]!, drawing, bones))
  return { puppet, bones, parts: table, ...list, restPose: compileRest(bones.ids.length, parts.length) }
}

function compileBones(puppet: Puppet): BoneTable {
  const list = bonesInOrder(puppet)
  const index = new Map(list.map((b, i) => [b.id, i]))
  return {
    ids: list.map((b) => b.id),
    index,
    parent: Int32Array.from(list, (b) => (b.parent === null ? -1 : index.get(b.parent)!)),
    start: Float64Array.from(list.flatMap((b) => [b.start.x, b.start.y])),
    end: Float64Array.from(list.flatMap((b) => [b.end.x, b.end.y])),
    min: Float64Array.from(list, (b) => b.limits.min ?? -Infinity),
    max: Float64Array.from(list, (b) => b.limits.max ?? Infinity),
  }
}

interface Placed {
  part: Part
  parent: number
  /** The part whose bind applies, and its map to the canvas at rest. */
  holder: { bind: Bind; rest: Affine } | null
  rest: Affine
}

/** All parts in painting order with what they inherit. */
function collectParts(puppet: Puppet): Placed[] {
  const out: Placed[] = []
  const stack = [{ id: puppet.root, parent: -1 }]
  while (stack.length > 0) {
    const { id, parent } = stack.pop()!
    const part = puppet.parts[id]!
    const above = out[parent]
    const rest = multiply(above?.rest ?? IDENTITY, placementMatrix(part.home, part.pivot))
    const holder = part.bind ? { bind: part.bind, rest } : (above?.holder ?? null)
    const at = out.push({ part, parent, holder, rest }) - 1
    for (let i = part.children.length - 1; i >= 0; i--) stack.push({ id: part.children[i]!, parent: at })
  }
  return out
}

function compileParts(parts: readonly Placed[], bones: BoneTable): PartTable {
  return {
    ids: parts.map((p) => p.part.id),
    index: new Map(parts.map((p, i) => [p.part.id, i])),
    parent: Int32Array.from(parts, (p) => p.parent),
    home: Float64Array.from(parts.flatMap((p) => placementMatrix(p.part.home, p.part.pivot))),
    pivot: Float64Array.from(parts.flatMap((p) => [p.part.pivot.x, p.part.pivot.y])),
    opacity: Float64Array.from(parts, (p) => p.part.opacity),
    bone: Int32Array.from(parts, ({ holder }) => (holder?.bind.kind === 'whole' ? bones.index.get(holder.bind.bone)! : -1)),
  }
}

function compileRest(bones: number, parts: number): Float64Array {
  const one = [
    ...Array(bones).fill(BONE_FIELDS.map((f) => restOf('bone', f))),
    ...Array(parts).fill(PART_FIELDS.map((f) => restOf('part', f))),
  ]
  return Float64Array.from(one.flat())
}

function compileDrawing(part: number, placed: Placed, drawing: Drawing, bones: BoneTable): RigDrawing {
  const bind = placed.holder?.bind
  if (bind?.kind !== 'blended') return { part, drawing, geometry: rigidGeometry(drawing), skin: null }
  return { part, drawing, ...skinned(placed, drawing, bind, bones) }
}

interface Skinned {
  drawing: Drawing
  key: string
  geometry: Geometry
  skin: Skin
}

/** Weights are sampled once per drawing and field; `key` tells whether placements and bones are still the same. */
const skins = new WeakMap<object, Skinned[]>()

function skinned(
  placed: Placed,
  drawing: Drawing,
  bind: Extract<Bind, { kind: 'blended' }>,
  bones: BoneTable,
): { geometry: Geometry; skin: Skin } {
  const key = JSON.stringify([placed.rest, placed.holder!.rest, bind.bones.map((b) => bones.index.get(b))])
  const known = skins.get(bind.field) ?? []
  const hit = known.find((s) => s.drawing === drawing && s.key === key)
  if (hit) return hit
  const made = { drawing, key, ...makeSkin(placed, drawing, bind, bones) }
  skins.set(bind.field, [...known.filter((s) => s.drawing !== drawing), made])
  return made
}

/** Longest piece of a bent curve at rest, canvas px. */
const LONGEST_PIECE = 6

function makeSkin(
  placed: Placed,
  drawing: Drawing,
  bind: Extract<Bind, { kind: 'blended' }>,
  bones: BoneTable,
): { geometry: Geometry; skin: Skin } {
  const scale = Math.sqrt(Math.abs(placed.rest[0] * placed.rest[3] - placed.rest[1] * placed.rest[2])) || 1
  const geometry = bentGeometry(drawing, LONGEST_PIECE / scale)
  const n = geometry.points.length / 2
  const offsets = new Int32Array(INFLUENCES * n)
  const weights = new Float64Array(INFLUENCES * n)
  const sampler = samplerOf(bind.field, bind.bones.length)
  const toHolder = multiply(invert(placed.holder!.rest) ?? IDENTITY, placed.rest)
  for (let i = 0; i < n; i++) {
    const x = geometry.points[2 * i]!
    const y = geometry.points[2 * i + 1]!
    const hx = toHolder[0] * x + toHolder[2] * y + toHolder[4]
    const hy = toHolder[1] * x + toHolder[3] * y + toHolder[5]
    sampler.sample(hx, hy, offsets, weights, INFLUENCES * i)
  }
  for (let i = 0; i < offsets.length; i++) offsets[i]! *= 6
  return { geometry, skin: { bones: Int32Array.from(bind.bones, (b) => bones.index.get(b)!), offsets, weights } }
}
