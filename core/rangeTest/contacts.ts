/** Pieces that lie on each other at rest, and how far poses bring them apart: parts that are left behind. */
import { bindHolder, bonesOfBind } from '../binds/tree'
import { bonesInOrder } from '../bones/tree'
import type { BoneId, PartId } from '../kernel/ids'
import type { Vec } from '../kernel/numbers'
import { apply, invert } from '../maths/geometry/affine'
import { isEmpty, meet } from '../maths/geometry/bounds'
import { isWithin } from '../maths/geometry/polyline'
import { partMap, type Frame } from '../puppet/frame'
import { posedMap } from '../puppet/posedMap'
import type { Puppet } from '../puppet/schema'
import { meansStill } from '../roles/match'
import { isSeen, outlinesOf, type PosedOutlines } from './forms'

/** A piece and what it lies on at rest. */
interface Contact {
  readonly drawing: number
  readonly on: number
  /** A spot that both have, in their own spaces. */
  readonly own: Vec
  readonly other: Vec
  /** Diagonal of the piece at rest, canvas px. */
  readonly size: number
}

export interface Gap {
  readonly part: PartId
  readonly on: PartId
  /** How far the spot is that they had in common, in sizes of the piece. */
  readonly apart: number
}

/** Points of an outline that are looked at. */
const LOOKED_AT = 48

/** Spots of an outline that lie within another one. */
function spotsWithin({ lines, box }: PosedOutlines, other: PosedOutlines): Vec[] {
  if (!meet(box, other.box)) return []
  const total = lines.reduce((sum, points) => sum + points.length / 2, 0)
  const step = Math.max(1, Math.floor(total / LOOKED_AT))
  return lines.flatMap((points) => {
    const out: Vec[] = []
    for (let i = 0; i < points.length; i += 2 * step)
      if (isWithin(other.lines, points[i]!, points[i + 1]!, 'nonzero')) out.push({ x: points[i]!, y: points[i + 1]! })
    return out
  })
}

const meanOf = (spots: readonly Vec[]): Vec => ({
  x: spots.reduce((sum, { x }) => sum + x, 0) / spots.length,
  y: spots.reduce((sum, { y }) => sum + y, 0) / spots.length,
})

/** How many entries two ways down a tree have in common from the top. */
function sharedBeginning<T>(one: readonly T[], other: readonly T[]): number {
  const parting = one.findIndex((entry, k) => entry !== other[k])
  return parting < 0 ? one.length : parting
}

/** Bones farther from each other than this carry what only happens to lie together. */
const NEIGHBOURS = 2

/** How far in the skeleton what carries one drawing is from what carries another. */
class Ties {
  private readonly carriers: readonly (readonly BoneId[])[]
  private readonly paths = new Map<BoneId, readonly BoneId[]>()

  constructor({ rig: { drawings, parts, puppet } }: Frame) {
    this.carriers = drawings.map(({ part }) => carriersOf(puppet, parts.ids[part]!))
    for (const { id, parent } of bonesInOrder(puppet)) this.paths.set(id, [...(parent === null ? [] : (this.paths.get(parent) ?? [])), id])
  }

  /** Steps between the nearest of their bones; 0 where the first has none, and farther than all others where only the second has none. */
  distance(a: number, b: number): number {
    const [one, other] = [this.carriers[a] ?? [], this.carriers[b] ?? []]
    // What nothing carries is measured against what it lies on: that is how a button is found that was forgotten.
    if (one.length === 0) return 0
    return Math.min(...one.flatMap((p) => other.map((q) => this.steps(p, q))))
  }

  private steps(a: BoneId, b: BoneId): number {
    const [one, other] = [this.paths.get(a) ?? [], this.paths.get(b) ?? []]
    return one.length + other.length - 2 * sharedBeginning(one, other)
  }
}

/** Bones that carry a part: its own, or those of what it hangs on. */
function carriersOf(puppet: Puppet, part: PartId, depth = 0): readonly BoneId[] {
  const bind = bindHolder(puppet, part)?.bind
  if (!bind || depth > MOST_HANGING) return []
  return bind.kind === 'attached' ? carriersOf(puppet, bind.to, depth + 1) : bonesOfBind(bind)
}

/** Parts that hang on parts, at most. */
const MOST_HANGING = 16

/** A share of the most that anything holds of a piece, from which it holds much of it. */
const MUCH = 0.5

/** How deep in the tree of parts the group lies that two drawings have in common. */
function kinship({ rig: { drawings, parts } }: Frame, a: number, b: number): number {
  const above = (d: number): number[] => {
    const out: number[] = []
    for (let p = drawings[d]!.part; p >= 0; p = parts.parent[p]!) out.unshift(p)
    return out
  }
  return sharedBeginning(above(a), above(b))
}

/** A piece whose share of a size has come apart by less than this still hangs together, whatever else. */
const LOOSE = 0.15

/** What stays where it is: shadows on the ground, scenery. */
const isScenery = ({ rig: { drawings, parts, puppet } }: Frame, d: number): boolean =>
  meansStill(puppet.parts[parts.ids[drawings[d]!.part]!]?.name ?? '')

/** Watches what lies on what. */
export class ContactWatch {
  private readonly contacts: readonly Contact[]

  /** @param rest a frame at rest, which is not evaluated again */
  constructor(rest: Frame) {
    const ties = new Ties(rest)
    const seen = rest.rig.drawings.flatMap((_, d) => (isSeen(rest, d) && !isScenery(rest, d) ? [{ d, outline: outlinesOf(rest, d) }] : []))
    this.contacts = seen
      .filter(({ outline }) => !isEmpty(outline.box))
      .flatMap((piece) => {
        // Each piece hangs together with what goes along with it most closely: a foot that lies over the other foot is the shin's.
        const held = seen.flatMap((other) => {
          if (other === piece) return []
          const spots = [...spotsWithin(piece.outline, other.outline), ...spotsWithin(other.outline, piece.outline)]
          return spots.length > 0 ? [{ other, spots }] : []
        })
        const near = held.filter(({ other }) => ties.distance(piece.d, other.d) <= NEIGHBOURS)
        const closest = Math.min(...near.map(({ other }) => ties.distance(piece.d, other.d)))
        const tied = near.filter(({ other }) => ties.distance(piece.d, other.d) === closest)
        const most = Math.max(...tied.map(({ spots }) => spots.length))
        // Of several that hold much of it the one to which it is nearest in the tree: a lip's shadow is the face's, not the neck's.
        const much = tied.filter(({ spots }) => spots.length >= MUCH * most)
        const best = much.sort(
          (a, b) => kinship(rest, piece.d, b.other.d) - kinship(rest, piece.d, a.other.d) || b.spots.length - a.spots.length,
        )[0]
        const contact = best && contactAt(rest, piece, best.other.d, meanOf(best.spots))
        return contact ? [contact] : []
      })
  }

  /** Pieces that are seen and no longer touch what they lay on, in a frame of the same rig. */
  measure(frame: Frame): Gap[] {
    const { drawings, parts } = frame.rig
    const idOf = (d: number): PartId => parts.ids[drawings[d]!.part]!
    return this.contacts.flatMap(({ drawing, on, own, other, size }): Gap[] => {
      if (!isSeen(frame, drawing) || !isSeen(frame, on)) return []
      const [a, b] = [posedMap(frame, idOf(drawing)).toCanvas(own), posedMap(frame, idOf(on)).toCanvas(other)]
      const apart = Math.hypot(a.x - b.x, a.y - b.y) / size
      if (apart < LOOSE || this.touch(frame, drawing, on)) return []
      return [{ part: idOf(drawing), on: idOf(on), apart }]
    })
  }

  private touch(frame: Frame, a: number, b: number): boolean {
    const [one, other] = [outlinesOf(frame, a), outlinesOf(frame, b)]
    return spotsWithin(one, other).length > 0 || spotsWithin(other, one).length > 0
  }
}

function contactAt(rest: Frame, { d, outline: { box } }: { d: number; outline: PosedOutlines }, on: number, at: Vec): Contact | null {
  const { drawings } = rest.rig
  const [own, other] = [d, on].map((k) => invert(partMap(rest, drawings[k]!.part)))
  const size = Math.hypot(box.maxX - box.minX, box.maxY - box.minY)
  return own && other && size > 0 ? { drawing: d, on, own: apply(own, at), other: apply(other, at), size } : null
}
