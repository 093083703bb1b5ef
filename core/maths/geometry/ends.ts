/** How a piece ends at a pivot: it runs on, it is cut open, or it was drawn round already. */
import type { Vec } from '../../kernel/numbers'
import type { Path } from '../../artwork/records'
import type { Area } from './booleans'
import { polygonPath } from './path'
import type { Disc } from './disc'

/** What runs on farther than this many radii beyond the pivot does not end there. */
const RUNS_ON = 1.75
/** The piece about the pivot that tells where it comes from, in radii. */
const ABOUT = 3
/** Share of the radius by which a round end may stray from a circle. */
const ROUND = 0.12
/** Sectors of the half circle beyond the pivot; the outline of a round end shows in each of them. */
const SECTORS = 9

/** How a piece ends at a disc. */
export type End =
  /** A torso at a shoulder: the pivot lies within it. */
  | { readonly kind: 'runs on' }
  /** `away`: unit vector from the piece out over its end. */
  | { readonly kind: 'open'; readonly away: Vec }
  | { readonly kind: 'round'; readonly away: Vec; readonly radius: number }

/**
 * Tells how a piece ends at a disc.
 *
 * @param inside spots of the piece, x,y pairs, evenly spread; those about the pivot say from where it comes
 * @param rim spots of its outline, x,y pairs, dense
 */
export function endAt(inside: readonly number[], rim: readonly number[], { centre, radius }: Disc): End {
  let [sx, sy] = [0, 0]
  for (let i = 0; i < inside.length; i += 2) {
    const [dx, dy] = [inside[i]! - centre.x, inside[i + 1]! - centre.y]
    if (dx * dx + dy * dy > (ABOUT * radius) ** 2) continue
    sx += dx
    sy += dy
  }
  const length = Math.hypot(sx, sy)
  if (length === 0) return { kind: 'runs on' }
  const away = { x: -sx / length, y: -sy / length }
  const far: number[] = []
  const seen = new Set<number>()
  for (let i = 0; i < rim.length; i += 2) {
    const [dx, dy] = [rim[i]! - centre.x, rim[i + 1]! - centre.y]
    const along = dx * away.x + dy * away.y
    if (along < 0.5) continue
    const angle = Math.atan2(dy * away.x - dx * away.y, along)
    far.push(Math.hypot(dx, dy))
    seen.add(Math.floor(SECTORS * (angle / Math.PI + 0.5)))
  }
  if (far.some((d) => d > RUNS_ON * radius)) return { kind: 'runs on' }
  const own = far.sort((a, b) => a - b)[far.length >> 1] ?? 0
  const isRound = own > 0.8 * radius && seen.size >= SECTORS && far.every((d) => Math.abs(d - own) <= Math.max(1, ROUND * own))
  return isRound ? { kind: 'round', away, radius: own } : { kind: 'open', away }
}

/** What lies beyond the pivot, as far as a piece could reach: a square whose side runs through the pivot across the limb. */
export function beyond({ centre: { x, y }, radius }: Disc, { x: ax, y: ay }: Vec): Area {
  const r = 2 * RUNS_ON * radius
  const corner = (along: number, across: number): number[] => [x + r * (along * ax - across * ay), y + r * (along * ay + across * ax)]
  const path: Path = polygonPath([...corner(0, -1), ...corner(1, -1), ...corner(1, 1), ...corner(0, 1)])
  return { paths: [path], rule: 'nonzero' }
}
