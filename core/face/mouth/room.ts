/** Room for a mouth: together, all that it does stays on the face. */
import type { PartId } from '../../kernel/ids'
import type { Vec } from '../../kernel/numbers'
import type { Puppet } from '../../puppet/schema'
import { drawnParts, restMatrix } from '../../parts/tree'
import { isWithin } from '../../maths/geometry/polyline'
import { flatten, mapPath } from '../../maths/geometry/path'
import { movableDrawing } from './moves'
import type { MouthOutline } from './outline'

/** Closed lines of a face as x,y pairs on the canvas. */
export type Ground = readonly (readonly number[])[]

/** Tolerance of flattening, px. */
const FINE = 0.5

function groundOf(puppet: Puppet, part: PartId): Ground {
  const drawing = movableDrawing(puppet, part)
  const map = restMatrix(puppet, part)
  const paths = drawing?.shapes.flatMap((s) => (s.ink ? s.paths : [])) ?? []
  return paths.filter((p) => p.closed).map((p) => flatten(mapPath(p, map), FINE))
}

const spotsOf = ({ upper, lower }: MouthOutline): Vec[] =>
  [upper, lower].flatMap((line) => Array.from({ length: line.length / 2 }, (_, i) => ({ x: line[2 * i]!, y: line[2 * i + 1]! })))

/** The part that the mouth lies on: the face that is said, else the smallest drawing that has all of the lips inside; null where none has. */
export function groundPart(puppet: Puppet, outline: MouthOutline, lips: PartId, face: PartId | null): PartId | null {
  const spots = spotsOf(outline)
  const holds = (ground: Ground): boolean => ground.length > 0 && spots.every((p) => isWithin(ground, p.x, p.y, 'nonzero'))
  const size = (ground: Ground): number => {
    const xs = ground.flatMap((line) => line.filter((_, k) => k % 2 === 0))
    return Math.max(...xs) - Math.min(...xs)
  }
  if (face !== null && holds(groundOf(puppet, face))) return face
  const others = drawnParts(puppet, puppet.root).flatMap(({ id }) => {
    const ground = id === lips ? [] : groundOf(puppet, id)
    return holds(ground) && size(ground) > 3 * outline.half ? [{ id, size: size(ground) }] : []
  })
  return others.sort((a, b) => a.size - b.size)[0]?.id ?? null
}

/** Closed lines of what the mouth lies on; null where it lies on nothing. */
export function groundBelow(puppet: Puppet, outline: MouthOutline, lips: PartId, face: PartId | null): Ground | null {
  const part = groundPart(puppet, outline, lips, face)
  return part === null ? null : groundOf(puppet, part)
}

/** Where a spot of the lips, and one of the face, goes in a pose. */
export interface Reached {
  readonly lips: (spot: Vec, isLower: boolean) => readonly [number, number]
  readonly face: (spot: Vec) => readonly [number, number]
}

/** Room that is left between lips and the edge of the face, as a share of half the width of the mouth. */
const MARGIN = 0.08

/** Whether the lips stay on the face in a pose. */
export function staysOn(ground: Ground, outline: MouthOutline, { lips, face }: Reached): boolean {
  const moved = ground.map((line) =>
    line.map((v, k) => {
      const spot = k % 2 === 0 ? { x: v, y: line[k + 1]! } : { x: line[k - 1]!, y: v }
      return v + face(spot)[k % 2]!
    }),
  )
  const room = MARGIN * outline.half
  return (['upper', 'lower'] as const).every((run) =>
    spotsOf({ ...outline, upper: outline[run], lower: [] }).every((spot) => {
      const [dx, dy] = lips(spot, run === 'lower')
      const [x, y] = [spot.x + dx, spot.y + dy]
      const [ox, oy] = [x - outline.middle.x, y - outline.middle.y]
      const far = 1 + room / Math.max(1, Math.hypot(ox, oy))
      return isWithin(moved, outline.middle.x + far * ox, outline.middle.y + far * oy, 'nonzero')
    }),
  )
}

/** The largest share up to 1, in steps of a twentieth, at which something fits; the least one where nothing does. */
export function largestShare(fits: (share: number) => boolean): number {
  for (let k = 20; k > 3; k--) if (fits(k / 20)) return k / 20
  return 3 / 20
}
