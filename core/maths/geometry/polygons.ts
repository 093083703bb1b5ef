/**
 * Boolean operations on polygons with holes.
 *
 * The one place that knows the package which computes them. Curves have theirs in booleans.ts, which would do polygons as well, but
 * takes ten times as long for the outline of a whole puppet (docs/decisions/25-two-engines.md).
 */
import clipping, { type MultiPolygon, type Polygon } from 'polygon-clipping'

export type { MultiPolygon, Polygon, Ring } from 'polygon-clipping'

/** What both kinds of input stand for: polygons as lists of rings, the first of each its rim, the others its holes. */
type Polygons = Polygon | MultiPolygon

/** What lies in any of the areas. */
export const unitePolygons = (first: Polygons, ...others: Polygons[]): MultiPolygon => clipping.union(first, ...others)

/** What lies in all of the areas. */
export const intersectPolygons = (first: Polygons, ...others: Polygons[]): MultiPolygon => clipping.intersection(first, ...others)

/** What lies in the first area and in none of the others. */
export const subtractPolygons = (first: Polygons, ...others: Polygons[]): MultiPolygon => clipping.difference(first, ...others)

/** What lies in an odd number of the areas. */
export const oddPolygons = (first: Polygons, ...others: Polygons[]): MultiPolygon => clipping.xor(first, ...others)
