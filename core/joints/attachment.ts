/** Where a piece turns, or begins: at what it hangs on to. */
import type { Vec } from '../kernel/numbers'
import type { PartId } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import type { Joint } from './records'
import type { Rims } from '../maths/geometry/breadth'
import { proposeDisc, toArea } from './proposeDisc'
import { rimsOf } from './proposeJoints'
import { areaOf, combine, type Area } from '../maths/geometry/booleans'
import { middleOf } from '../maths/geometry/bounds'
import { flatten, mapPath } from '../maths/geometry/path'
import { distanceToPolyline } from '../maths/geometry/polyline'
import { drawnParts, isWithinPart, partPath, restBounds, restMatrix } from '../parts/tree'

/** Pieces farther apart than this do not touch, canvas px. */
const TOUCHING = 4

/** Parts that show artwork of their own. */
const shownParts = (puppet: Puppet): Part[] => drawnParts(puppet, puppet.root).filter((p) => p.visible && p.art[puppet.view] !== undefined)

/** The least distance between two outlines, canvas px; 0 is not told for what lies over each other. */
function gapBetween(a: Rims, b: Rims): number {
  let least = Infinity
  for (const [from, to] of [
    [a, b],
    [b, a],
  ] as const)
    for (const rim of from)
      for (let i = 0; i < rim.length; i += 2)
        for (const other of to) least = Math.min(least, distanceToPolyline(other, true, rim[i]!, rim[i + 1]!))
  return least
}

/** What two outlines both cover, px². */
const overlapOf = (a: Rims, b: Rims): number => areaOf({ rule: 'nonzero', paths: combine(toArea(a), toArea(b), 'intersect') })

const touch = (a: Rims, b: Rims): boolean => b.length > 0 && (gapBetween(a, b) <= TOUCHING || overlapOf(a, b) > 1)

/**
 * The spot at which outlines hang on to the largest of their neighbours: the middle of where the two meet. A hand
 * hangs on to the arm, the arm to the body.
 *
 * @returns null where none of them is near
 */
export function meetingSpot(own: Rims, neighbours: readonly Rims[]): Vec | null {
  const touching = neighbours
    .filter((rims) => touch(own, rims))
    .map((rims) => ({ rims, size: areaOf(toArea(rims)) }))
    .sort((a, b) => b.size - a.size)
  return touching[0] ? (proposeDisc(touching[0].rims, own)?.centre ?? null) : null
}

/** A part that covers more of what it meets than this share of itself lies on it rather than hanging from it. */
const LYING = 0.35

/**
 * Where a part is attached, on the canvas at rest: at its joint with the larger other part, else where its artwork
 * meets others'. Null where it touches nothing, or lies on what it meets.
 */
export function attachedAt(puppet: Puppet, part: PartId): Vec | null {
  const size = (id: PartId): number => areaOf(toArea(rimsOf(puppet, id)))
  const joints = Object.values(puppet.joints).filter((j) => j.under === part || j.over === part)
  const other = (j: Joint): PartId => (j.under === part ? j.over : j.under)
  const [joint] = joints.sort((a, b) => size(other(b)) - size(other(a)))
  if (joint) return joint.at
  const own = rimsOf(puppet, part)
  const others = shownParts(puppet).filter((p) => !isWithinPart(puppet, p.id, part))
  const rims = others.map((p) => rimsOf(puppet, p.id)).filter((r) => r.length > 0)
  const covered = rims.reduce((most, r) => Math.max(most, overlapOf(own, r)), 0)
  return covered > LYING * areaOf(toArea(own)) ? null : meetingSpot(own, rims)
}

/** What was cut out of a part. */
export interface Cut {
  /** The part before, and the area in its own space. */
  readonly source: PartId
  readonly area: Area
  /** The part that shows it. */
  readonly piece: PartId
}

/**
 * Where the piece of a cut turns, on the canvas at rest: where it was cut from what is next to it, else in its middle.
 *
 * @param before the puppet that was cut, of which the source may have kept everything
 * @param made parts that came out of the same cut; they are no neighbours of each other
 */
export function cutPivot(before: Puppet, after: Puppet, { source, area, piece }: Cut, made: ReadonlySet<PartId>): Vec | null {
  const own = rimsOf(after, piece)
  const isNeighbour = (id: PartId): boolean => id !== source && !partPath(after, id).some((p) => made.has(p.id) || p.sheet !== null)
  const others = shownParts(after).filter((p) => isNeighbour(p.id))
  const spot = meetingSpot(own, [...restOf(before, source, area), ...others.map((p) => rimsOf(after, p.id))])
  if (spot) return spot
  const box = restBounds(after, piece)
  return box && middleOf(box)
}

/** What a part comes to on the canvas without an area of it: a piece out of its middle leaves several. */
function restOf(puppet: Puppet, part: PartId, area: Area): Rims[] {
  const map = restMatrix(puppet, part)
  const taken: Area = { ...area, paths: area.paths.map((p) => mapPath(p, map)) }
  return combine(toArea(rimsOf(puppet, part)), taken, 'subtract').map((p) => [flatten(p, 0.25)])
}
