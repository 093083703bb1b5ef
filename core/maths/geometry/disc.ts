/** Discs at which joints turn. */
import type { Path } from '../../artwork/records'
import type { Vec } from '../../kernel/numbers'
import type { Area } from './booleans'

/** A circle in canvas px. */
export interface Disc {
  readonly centre: Vec
  readonly radius: number
}

/** Ratio of handles to radius at which four cubics follow a circle (largest error 0.03%). */
const ROUND = 0.5519150244935106

/** A circle as a path of four cubic stretches. */
export function circlePath({ centre: { x, y }, radius: r }: Disc): Path {
  const k = ROUND * r
  return {
    closed: true,
    ids: [0, 1, 2, 3],
    anchors: [x + r, y, x, y + r, x - r, y, x, y - r],
    handles: [0, -k, 0, k, k, 0, -k, 0, 0, k, 0, -k, -k, 0, k, 0],
  }
}

/** A disc as an area. */
export const discArea = (disc: Disc): Area => ({ paths: [circlePath(disc)], rule: 'nonzero' })
