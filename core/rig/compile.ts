/**
 * compile(puppet) -> Rig: the document as typed arrays, made once per structural change.
 *
 * Everything that depends on one drawing or one bind is remembered under that object. Documents share what did not
 * change, so compiling again after an edit redoes only what the edit touched; a pose alone recompiles nothing.
 */
import { BONE_FIELDS, PART_FIELDS, restOf } from '../document/channels'
import type { BoneId, PartId } from '../document/ids'
import type { Affine, Bind, Drawing, Part, Picture, Puppet, WeightField } from '../document/schema'
import { pictureOf } from '../document/pictures'
import { bonesInOrder } from '../document/tree'
import { apply, IDENTITY, invert, multiply, placementMatrix, turnAbout } from '../geometry/affine'
import { bendGeometry, bendMesh, type BentGeometry } from './bend'
import { samplerOf } from './field'
import { drawnForm } from './drawnForm'
import { rigidGeometry, type Geometry } from './geometry'
import { writePaintList, type PaintList } from './paintList'
import { INFLUENCES, skinLinear, skinVolume } from './skin'

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

/** How a drawing that bends is skinned: its samples by weights, its path points from the samples. */
export interface Skin {
  readonly mode: 'volume' | 'linear'
  /** [k] bone table indices of the bind */
  readonly bones: Int32Array
  readonly bent: BentGeometry
  /** [4m] for each sample six times the position in `bones` */
  readonly offsets: Int32Array
  /** [4m] */
  readonly weights: Float64Array
  /** [2m] centres of rotation, in the part's own space */
  readonly centres: Float64Array
  /** Weights and centres of any points of the part's own space. */
  readonly weigh: Weigh
}

export type Weigh = (points: Float64Array) => Pick<Skin, 'offsets' | 'weights' | 'centres'>

export interface RigDrawing {
  readonly part: number
  /** For a picture its outline. */
  readonly drawing: Drawing
  readonly picture: Picture | null
  readonly geometry: Geometry
  /** For a picture the samples are the vertices of its mesh. */
  readonly skin: Skin | null
}

export interface Rig extends PaintList {
  readonly puppet: Puppet
  readonly bones: BoneTable
  readonly parts: PartTable
  /** Pose in which everything is at rest. */
  readonly restPose: Float64Array
}

/** Number of the drawing that a part itself shows; -1 where it shows none. */
export const drawingOfPart = ({ drawings, parts }: Pick<Rig, 'drawings' | 'parts'>, part: PartId): number => {
  const at = parts.index.get(part)
  return drawings.findIndex((d) => d.part === at)
}

/** Where the angle of a bone stands in a pose array. */
export const boneSlot = (bone: number): number => bone * BONE_STRIDE
/** Where the fields of a part start in a pose array. */
export const partSlot = (rig: Pick<Rig, 'bones'>, part: number): number => rig.bones.ids.length * BONE_STRIDE + part * PART_STRIDE

export function compile(puppet: Puppet): Rig {
  const bones = compileBones(puppet)
  const parts = collectParts(puppet)
  const table = compileParts(parts, bones)
  const list = writePaintList(puppet, parts, table.index, (at, drawing) =>
    compileDrawing(at, parts[at]!, drawing, pictureOf(puppet, parts[at]!.part), bones),
  )
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

function compileDrawing(part: number, placed: Placed, drawn: Drawing, picture: Picture | null, bones: BoneTable): RigDrawing {
  const bind = placed.holder?.bind
  const drawing = drawnForm(drawn)
  if (bind?.kind !== 'blended') return { part, drawing, picture, geometry: rigidGeometry(drawing), skin: null }
  return { part, drawing, picture, ...skinned(placed, drawing, picture, bind, bones) }
}

interface Skinned {
  key: string
  geometry: Geometry
  skin: Skin
}

/** Weights are sampled once per drawing and field; `key` tells whether placements and bones are still the same. */
const skins = new WeakMap<WeightField, WeakMap<Drawing, Skinned>>()

/** Limits and starts of a bind's bones: what the trial poses depend on. */
const limitsOf = (bind: Extract<Bind, { kind: 'blended' }>, bones: BoneTable): (number | null)[] =>
  bind.bones.flatMap((id) => {
    const b = bones.index.get(id)!
    return [bones.min[b]!, bones.max[b]!, bones.start[2 * b]!, bones.start[2 * b + 1]!, bones.parent[b]!]
  })

function skinned(
  placed: Placed,
  drawing: Drawing,
  picture: Picture | null,
  bind: Extract<Bind, { kind: 'blended' }>,
  bones: BoneTable,
): { geometry: Geometry; skin: Skin } {
  const key = JSON.stringify([
    placed.rest,
    placed.holder!.rest,
    bind.bones.map((b) => bones.index.get(b)),
    bind.mode,
    limitsOf(bind, bones),
  ])
  const known = skins.get(bind.field) ?? new WeakMap<Drawing, Skinned>()
  skins.set(bind.field, known)
  const hit = known.get(drawing)
  if (hit?.key === key) return hit
  const made = { key, ...makeSkin(placed, drawing, picture, bind, bones) }
  known.set(drawing, made)
  return made
}

/** Pieces of a bent curve before any trial, canvas px. */
const FIRST_PIECE = 24
/** Largest distance of a bent curve from its true image at 100%, canvas px, a fifth of it in reserve. */
const STRAY = 0.2
/** Distance at which derivatives of the bend are taken, canvas px. */
const STEP = 0.25

function makeSkin(
  placed: Placed,
  drawing: Drawing,
  picture: Picture | null,
  bind: Extract<Bind, { kind: 'blended' }>,
  bones: BoneTable,
): { geometry: Geometry; skin: Skin } {
  if (picture) return skinMesh(drawing, picture, bind, weigher(placed, bind), bones)
  const scale = Math.sqrt(Math.abs(placed.rest[0] * placed.rest[3] - placed.rest[1] * placed.rest[2])) || 1
  const weigh = weigher(placed, bind)
  const table = Int32Array.from(bind.bones, (b) => bones.index.get(b)!)
  const poses = trialMotions(bones, table)
  const world = Float64Array.from(placed.rest)
  const trial = (points: Float64Array): Float64Array[] => {
    if (poses.length === 0) return []
    const { offsets, weights, centres } = weigh(points)
    return poses.map((motions) => {
      const out = new Float64Array(points.length)
      if (bind.mode === 'volume') skinVolume(points, centres, offsets, weights, motions, world, 0, out)
      else skinLinear(points, offsets, weights, joined(motions, placed.rest), out)
      return out
    })
  }
  const bent = bendGeometry(drawing, FIRST_PIECE / scale, STRAY, STEP / scale, trial)
  return { geometry: bent.geometry, skin: { mode: bind.mode, bones: table, bent, weigh, ...weigh(bent.samples) } }
}

/** A picture bends by its mesh; nothing of it is curved. */
function skinMesh(
  drawing: Drawing,
  { mesh }: Picture,
  bind: Extract<Bind, { kind: 'blended' }>,
  weigh: Weigh,
  bones: BoneTable,
): { geometry: Geometry; skin: Skin } {
  const bent = bendMesh(drawing, mesh.vertices)
  const table = Int32Array.from(bind.bones, (b) => bones.index.get(b)!)
  return { geometry: bent.geometry, skin: { mode: bind.mode, bones: table, bent, weigh, ...weigh(bent.samples) } }
}

/** Reads weights and centres of points in the part's own space from the field of the part that holds the bind. */
function weigher(placed: Placed, bind: Extract<Bind, { kind: 'blended' }>): Weigh {
  const sampler = samplerOf(bind.field, bind.bones.length)
  const toHolder = multiply(invert(placed.holder!.rest) ?? IDENTITY, placed.rest)
  const back = invert(toHolder) ?? IDENTITY
  return (points) => {
    const n = points.length / 2
    const offsets = new Int32Array(INFLUENCES * n)
    const weights = new Float64Array(INFLUENCES * n)
    const centres = new Float64Array(2 * n)
    for (let i = 0; i < n; i++) {
      const p = apply(toHolder, { x: points[2 * i]!, y: points[2 * i + 1]! })
      sampler.sample(p.x, p.y, i, offsets, weights, centres)
      const centre = apply(back, { x: centres[2 * i]!, y: centres[2 * i + 1]! })
      centres[2 * i] = centre.x
      centres[2 * i + 1] = centre.y
    }
    for (let i = 0; i < offsets.length; i++) offsets[i]! *= 6
    return { offsets, weights, centres }
  }
}

/** Motions [6k] with a map joined before each. */
function joined(motions: Float64Array, map: Affine): Float64Array {
  const out = new Float64Array(motions.length)
  for (let k = 0; k < motions.length; k += 6) out.set(multiply([...motions.subarray(k, k + 6)] as unknown as Affine, map), k)
  return out
}

/** Bend of every joint in a trial pose, degrees, where limits allow it. */
const TRIAL_BEND = 120

/**
 * Motions [6k] of a bind's bones in poses that bend each joint hard: all one way, all the other, and to and fro. A
 * bone without a parent among them stays at rest, for turning everything bends nothing.
 */
function trialMotions(bones: BoneTable, table: Int32Array): Float64Array[] {
  const parents = Array.from(table, (bone) => {
    for (let up = bones.parent[bone]!; up >= 0; up = bones.parent[up]!) if (table.includes(up)) return table.indexOf(up)
    return -1
  })
  if (parents.every((p) => p < 0)) return []
  const order = Array.from(table.keys()).sort((a, b) => table[a]! - table[b]!)
  const signs: ((depth: number) => number)[] = [() => 1, () => -1, (depth) => (depth % 2 === 0 ? 1 : -1)]
  return signs.map((sign) => {
    const motions: Affine[] = []
    const depths: number[] = []
    for (const k of order) {
      const bone = table[k]!
      const parent = parents[k]!
      depths[k] = parent < 0 ? 0 : depths[parent]! + 1
      const wanted = parent < 0 ? 0 : TRIAL_BEND * sign(depths[k]!)
      const angle = Math.min(bones.max[bone]!, Math.max(bones.min[bone]!, wanted))
      const own = turnAbout(angle, { x: bones.start[2 * bone]!, y: bones.start[2 * bone + 1]! })
      motions[k] = parent < 0 ? own : multiply(motions[parent]!, own)
    }
    return Float64Array.from(motions.flat())
  })
}
