/**
 * compile(puppet) -> Rig: the document as typed arrays, made once per structural change.
 *
 * Everything that depends on one drawing or one bind is remembered under that object. Documents share what did not
 * change, so compiling again after an edit redoes only what the edit touched; a pose alone recompiles nothing.
 */
import type { PartId } from '../document/ids'
import { handlesOf, type Deformer, type Drawing, type Picture, type Puppet } from '../document/schema'
import { pictureOf } from '../document/pictures'
import { IDENTITY, multiply, placementMatrix } from '../geometry/affine'
import { answeringParts, compileAnswers, movesField, type Answers } from './answers/answers'
import { makeReshape, ownGeometry, type Reshape } from './answers/reshape'
import { compileBones, type BoneTable } from './boneTable'
import { compileConstraints, type ConstraintTable } from './constraints'
import { isRigid, type Course } from './course'
import { BESIDE, compileAnchors, courseOf, type Placed, type RigAnchor, type RigDeformer, type Ways } from './courses'
import { BendShape } from './deform/bend'
import { CageShape } from './deform/cage'
import { paintOrder, PinsShape } from './deform/pins'
import type { Shape } from './deform/shape'
import { drawnForm } from './drawnForm'
import { rigidGeometry, type Geometry } from './geometry'
import { writePaintList, type PaintList } from './paintList'
import { boneSlot, makeSlots, slotOf, type Slots } from './slots'
import { softened, type Soft } from './soften'
import { compileSwaps, type RigSwap } from './swaps/swaps'

export { BESIDE, boneSlot }
export type { BoneTable, RigAnchor, RigDeformer, Soft }

export interface PartTable {
  readonly ids: readonly PartId[]
  readonly index: ReadonlyMap<PartId, number>
  /** [p] index of the parent, -1 for the root; parents come first */
  readonly parent: Int32Array
  /** [6p] map of the home alone */
  readonly home: Float64Array
  /** [6p] to the canvas at rest */
  readonly rest: Float64Array
  /** [2p] */
  readonly pivot: Float64Array
  /** [p] the bone that carries the part whole, or -1 */
  readonly bone: Int32Array
  /** [p] the part whose attached bind carries this one, or -1 */
  readonly anchor: Int32Array
}

export interface RigDrawing {
  readonly part: number
  /** For a picture its outline. */
  readonly drawing: Drawing
  readonly picture: Picture | null
  /** Triangles of a picture's mesh in the order in which they are painted; null for their own. */
  readonly order: readonly number[] | null
  readonly geometry: Geometry
  /** For a picture the samples are the vertices of its mesh. */
  readonly soft: Soft | null
  /** How responses move its points; null where none does. */
  readonly reshape: Reshape | null
}

export interface Rig extends PaintList {
  readonly puppet: Puppet
  readonly bones: BoneTable
  readonly parts: PartTable
  readonly constraints: ConstraintTable
  readonly deformers: readonly RigDeformer[]
  /** In an order in which each finds placed what it hangs on. */
  readonly anchors: readonly RigAnchor[]
  /** The way of a part's points to the posed canvas. */
  readonly courses: (part: number) => Course
  readonly slots: Slots
  readonly answers: Answers
  readonly swaps: readonly RigSwap[]
  /** Pose in which everything is at rest. */
  readonly restPose: Float64Array
}

/** Number of the drawing that a part itself shows; -1 where it shows none. */
export const drawingOfPart = ({ drawings, parts }: Pick<Rig, 'drawings' | 'parts'>, part: PartId): number => {
  const at = parts.index.get(part)
  return drawings.findIndex((d) => d.part === at)
}

/** Where the fields of a part start in a pose array. */
export const partSlot = ({ slots }: Pick<Rig, 'slots'>, part: number): number => slotOf(slots, 'part', part)

export function compile(puppet: Puppet): Rig {
  const bones = compileBones(puppet)
  const parts = collectParts(puppet)
  const table = compileParts(parts, bones)
  const slots = makeSlots(puppet, bones.ids, table.ids)
  const deformers = compileDeformers(puppet, table, slots)
  const ways: Ways = { puppet, parts, table, bones, deformers, shapes: deformers.map(({ source }) => makeShape(source)), known: new Map() }
  const [reshaped, painted] = [answeringParts(puppet, 'points'), answeringParts(puppet, 'paint')]
  const answering = (part: PartId, drawing: string): Answering =>
    reshaped.get(part)?.has(drawing) ? 'points' : painted.get(part)?.has(drawing) ? 'paint' : 'nothing'
  const list = writePaintList(
    puppet,
    parts,
    table.index,
    (at, drawing) => {
      const { part } = parts[at]!
      return compileDrawing(ways, at, drawing, pictureOf(puppet, part), answering(part.id, drawing.id))
    },
    (part) => movesField(puppet, part, 'shown') || `part/${part}/shown` in puppet.pose,
  )
  const anchors = compileAnchors(ways)
  const constraints = compileConstraints(puppet, bones)
  return {
    puppet,
    bones,
    parts: table,
    constraints,
    deformers,
    anchors,
    courses: (part) => courseOf(ways, part),
    slots,
    ...list,
    answers: compileAnswers({ puppet, slots, bones, constraints, drawings: list.drawings, parts: table }),
    swaps: compileSwaps(puppet, table.index, list.drawings),
    restPose: slots.rest,
  }
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
    const holder = part.bind ? { at: out.length, bind: part.bind, rest } : (above?.holder ?? null)
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
    rest: Float64Array.from(parts.flatMap((p) => p.rest)),
    pivot: Float64Array.from(parts.flatMap((p) => [p.part.pivot.x, p.part.pivot.y])),
    bone: Int32Array.from(parts, ({ holder }) => (holder?.bind.kind === 'whole' ? bones.index.get(holder.bind.bone)! : -1)),
    anchor: Int32Array.from(parts, ({ holder }) => (holder?.bind.kind === 'attached' ? holder.at : -1)),
  }
}

function compileDeformers(puppet: Puppet, table: PartTable, slots: Slots): RigDeformer[] {
  const { deformer, handle } = slots.families
  return Object.values(puppet.parts).flatMap((part) =>
    part.deformers.map((source): RigDeformer => {
      const own = slotOf(slots, 'deformer', deformer.index.get(source.id)!)
      // Handles of one deformer stand in a row.
      const handles = slotOf(slots, 'handle', handle.index.get(handlesOf(source)[0] ?? '') ?? 0)
      return { source, part: table.index.get(part.id)!, slots: { own, handles, stride: handle.stride } }
    }),
  )
}

/** The shape of a deformer, with values of its own. */
export const makeShape = (source: Deformer): Shape =>
  source.kind === 'cage' ? new CageShape(source) : source.kind === 'bend' ? new BendShape(source) : new PinsShape(source)

/** What of a drawing responses change. */
type Answering = 'points' | 'paint' | 'nothing'

function compileDrawing(ways: Ways, part: number, drawn: Drawing, picture: Picture | null, answers: Answering): RigDrawing {
  const drawing = drawnForm(drawn)
  const course = courseOf(ways, part)
  const order = picture && orderOf(ways, course, picture)
  const form = isRigid(course) ? { geometry: rigidGeometry(drawing), soft: null } : softened(ways, course, drawing, picture)
  const own = (base: Geometry | null): Geometry => ownGeometry(drawn, ways.table.ids[part]!, base)
  if (picture || answers === 'nothing') return { part, drawing, picture, order, ...form, reshape: null }
  // Parts that share a drawing may be painted apart.
  if (answers === 'paint') return { part, drawing, picture, order, soft: form.soft, geometry: own(form.geometry), reshape: null }
  const geometry = own(form.soft && form.geometry)
  return { part, drawing, picture, order, soft: form.soft, geometry, reshape: makeReshape(drawn, form.soft, ways.shapes) }
}

/** A rig for a puppet that differs in what its responses do alone, and moves the points of the same drawings. */
export function withAnswers(rig: Rig, puppet: Puppet): Rig {
  const { slots, bones, constraints, drawings, parts } = rig
  return { ...rig, puppet, answers: compileAnswers({ puppet, slots, bones, constraints, drawings, parts }) }
}

/** Triangles of a picture by the depth of the pins that move it, where they share its mesh. */
function orderOf({ deformers }: Ways, { levels }: Course, { mesh }: Picture): readonly number[] | null {
  for (const s of levels.flatMap((l) => l.shapes)) {
    const { source } = deformers[s]!
    if (source.kind === 'pins' && source.triangles.length === mesh.triangles.length && source.vertices.length === mesh.vertices.length) {
      const order = paintOrder(source)
      if (order) return order
    }
  }
  return null
}
