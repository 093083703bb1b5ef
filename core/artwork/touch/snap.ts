/** Snapping: a spot that comes near a point, a pivot or a guide lies on it. */
import type { Guide } from '../../puppet/schema'
import type { Vec } from '../../kernel/numbers'

/** What a spot may snap to. */
export interface SnapTargets {
  /** Points and pivots: caught as they are. */
  readonly spots: readonly Vec[]
  readonly guides: readonly Guide[]
}

/** Where a spot came to lie, and why. */
export interface Snapped {
  readonly at: Vec
  /** What it was caught by: a spot, or the guides of one or both axes. */
  readonly by: { readonly spot: Vec | null; readonly guides: readonly Guide[] }
}

/** The spot, or what it is caught by within a reach; spots win over guides, nearer ones over farther ones. */
export function snapTo(at: Vec, { spots, guides }: SnapTargets, reach: number): Snapped {
  let best: { spot: Vec; far: number } | null = null
  for (const spot of spots) {
    const far = Math.hypot(spot.x - at.x, spot.y - at.y)
    if (far <= reach && (!best || far < best.far)) best = { spot, far }
  }
  if (best) return { at: { ...best.spot }, by: { spot: best.spot, guides: [] } }
  const nearest = (axis: 'x' | 'y'): Guide | null =>
    guides
      .filter((g) => g.axis === axis && Math.abs(g.at - at[axis]) <= reach)
      .sort((a, b) => Math.abs(a.at - at[axis]) - Math.abs(b.at - at[axis]))[0] ?? null
  const [x, y] = [nearest('x'), nearest('y')]
  return { at: { x: x?.at ?? at.x, y: y?.at ?? at.y }, by: { spot: null, guides: [x, y].filter((g) => g !== null) } }
}
