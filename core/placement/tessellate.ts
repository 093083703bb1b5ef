/**
 * Drawings that change their form made ready: their curves split where they will bend, and their points fixed to what
 * moves them.
 */
import type { Affine } from '../kernel/numbers'
import type { Drawing, Picture } from '../artwork/records'
import { multiply, turnAbout } from '../maths/geometry/affine'
import { bendGeometry, bendMesh, type BentGeometry, type Trial } from '../artwork/flat/pieces'
import type { BoneTable } from '../bones/table'
import { fixPoints, type Blend, type DeformChain, type Fixed } from './deformChain'
import type { Ways } from './deformChains'
import type { Geometry } from '../artwork/flat/flat'
import { skinLinear, skinVolume } from '../binds/skin'
import type { Bind } from '../binds/records'
import { kindOfDeformer } from '../deformers/kinds'

/** How a drawing that changes its form is posed: its samples go their course, its path points follow from them. */
export interface Tessellation {
  readonly bent: BentGeometry
  readonly chain: DeformChain
  readonly fixed: Fixed
  /** Fixes any points of the part's own space. */
  readonly fix: (points: Float64Array) => Fixed
  /** Where points of the part's own space go in poses that bend hard what bends it, but for pins; canvas px. */
  readonly tryOut: Trial
}

interface Tessellated {
  readonly geometry: Geometry
  readonly tessellation: Tessellation
}

/** What takes time to make: curves split where they bend, and samples fixed. */
type Made = Pick<Tessellation, 'bent' | 'fixed'>

/** Kept per drawing and key: what they depend on, which is nothing of the order of parts. Twins share a drawing. */
const known = new WeakMap<Drawing, Map<string, Made>>()
/** Forms of one drawing that are kept. */
const KEPT = 8

const names = new WeakMap<object, number>()
let lastName = 0
/** A number for an object: the same as long as it is the same object. */
function nameOf(thing: object): number {
  let name = names.get(thing)
  if (name === undefined) names.set(thing, (name = ++lastName))
  return name
}

/** What splits and fixed samples of a course depend on. */
function keyOf(ways: Ways, deformChain: DeformChain): unknown[] {
  const { parts, deformers, bones } = ways
  const { holder } = parts[deformChain.part]!
  const shape = (s: number): number => nameOf(deformers[s]!.source)
  return [
    deformChain.rest,
    deformChain.levels.map((l) => [l.rest, l.shapes.map(shape)]),
    deformChain.later.map((l) => [l.place, shape(l.shape)]),
    holder?.bind.kind === 'blended' && [nameOf(holder.bind.field), holder.bind.mode, holder.rest, limitsOf(holder.bind, bones)],
    deformChain.fused && [deformChain.fused.back, keyOf(ways, deformChain.fused.deformChain)],
  ]
}

/** Limits, starts and parents of a bind's bones: what the trial poses depend on. */
const limitsOf = (bind: Extract<Bind, { kind: 'blended' }>, bones: BoneTable): (number | string | null)[] =>
  bind.bones.flatMap((id) => {
    const b = bones.index.get(id)!
    return [id, bones.min[b]!, bones.max[b]!, bones.start[2 * b]!, bones.start[2 * b + 1]!, bones.ids[bones.parent[b]!] ?? null]
  })

/** How a drawing goes its course; for a picture the samples are the vertices of its mesh. */
export function tessellated(ways: Ways, deformChain: DeformChain, drawing: Drawing, picture: Picture | null): Tessellated {
  const fix = (points: Float64Array): Fixed => fixPoints(deformChain, ways.shapes, points)
  const key = JSON.stringify(keyOf(ways, deformChain))
  const kept = known.get(drawing) ?? new Map<string, Made>()
  known.set(drawing, kept)
  let made = kept.get(key)
  if (!made) {
    const bent = picture ? bendMesh(drawing, picture.mesh.vertices) : bentFor(ways, deformChain, drawing)
    made = { bent, fixed: fix(bent.samples) }
    for (const old of kept.keys()) if (kept.size >= KEPT) kept.delete(old)
    kept.set(key, made)
  }
  return {
    geometry: made.bent.geometry,
    tessellation: { ...made, chain: deformChain, fix, tryOut: (points) => triedOut(ways, deformChain, points) },
  }
}

/** Pieces of a bent curve before any trial, canvas px. */
const FIRST_PIECE = 24
/** Largest distance of a bent curve from its true image at 100%, canvas px, a fifth of it in reserve. */
const STRAY = 0.2
/** Distance at which derivatives of the bend are taken, canvas px. */
const STEP = 0.25

function bentFor(ways: Ways, deformChain: DeformChain, drawing: Drawing): BentGeometry {
  const scale = sizeOf(deformChain.rest)
  const trials = trialsOf(ways, deformChain, scale)
  return bendGeometry(drawing, FIRST_PIECE / scale, STRAY, STEP / scale, (points) => trials.flatMap((trial) => trial(points)))
}

/** Trials without pins: what they move goes with the triangles of their own mesh. */
function triedOut(ways: Ways, deformChain: DeformChain, points: Float64Array): Float64Array[] {
  const isSmooth = (s: number): boolean => kindOfDeformer(ways.deformers[s]!.source).isSmooth
  const levels = deformChain.levels.map((l) => ({ ...l, shapes: l.shapes.filter(isSmooth) }))
  const smooth = { ...deformChain, levels, later: deformChain.later.filter((l) => isSmooth(l.shape)) }
  return trialsOf(ways, smooth, sizeOf(deformChain.rest)).flatMap((trial) => trial(points))
}

/** Trials of everything that changes the form of a course's points. */
function trialsOf(ways: Ways, deformChain: DeformChain, scale: number): Trial[] {
  const out: Trial[] = []
  if (deformChain.blend) out.push(trialOf(deformChain.blend, deformChain.rest, ways.bones))
  const cells = [
    ...deformChain.levels.flatMap((l) => l.shapes.map((s) => ways.shapes[s]!.cell / sizeOf(l.rest))),
    ...deformChain.later.map((l) => ways.shapes[l.shape]!.cell),
  ]
  if (cells.length > 0) out.push(wobble(Math.min(...cells), scale))
  if (deformChain.fused) out.push(...trialsOf(ways, deformChain.fused.deformChain, scale))
  return out
}

const sizeOf = (m: Affine): number => Math.sqrt(Math.abs(m[0] * m[3] - m[1] * m[2])) || 1

/** Moves as strong as a deformer with cells of a size makes them: waves of two cells, a quarter of a cell high. */
function wobble(cell: number, scale: number): Trial {
  const pace = Math.PI / cell
  const high = cell / 4
  return (points) => {
    const out = new Float64Array(points.length)
    for (let i = 0; i < points.length; i += 2) {
      out[i] = scale * (points[i]! + high * Math.sin(pace * points[i + 1]!))
      out[i + 1] = scale * (points[i + 1]! + high * Math.sin(pace * points[i]!))
    }
    return [out]
  }
}

function trialOf({ bones: table, weigh, mode }: Blend, rest: Affine, bones: BoneTable): Trial {
  const poses = trialMotions(bones, table)
  const world = Float64Array.from(rest)
  return (points) => {
    if (poses.length === 0) return []
    const { offsets, weights, centres } = weigh(points)
    return poses.map((motions) => {
      const out = new Float64Array(points.length)
      if (mode === 'volume') skinVolume(points, centres, offsets, weights, motions, world, 0, out)
      else skinLinear(points, offsets, weights, joined(motions, rest), out)
      return out
    })
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
