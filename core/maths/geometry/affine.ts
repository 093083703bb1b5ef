/** 2x3 affine maps [a, b, c, d, e, f]: x' = a x + c y + e, y' = b x + d y + f. Canvas space, y down. */
import type { Affine, Vec } from '../../kernel/numbers'
import type { Placement } from '../../parts/records'

/** The map that leaves everything where it is. */
export const IDENTITY: Affine = [1, 0, 0, 1, 0, 0]

const RADIANS = Math.PI / 180

/** Degrees, counter-clockwise positive on screen, to the signed radians of a y-down rotation matrix. */
export const toRadians = (degrees: number): number => degrees * RADIANS

/** Radians in degrees. */
export const toDegrees = (radians: number): number => radians / RADIANS

/** The product m·n: n acts first. */
export function multiply(m: Affine, n: Affine): Affine {
  return [
    m[0] * n[0] + m[2] * n[1],
    m[1] * n[0] + m[3] * n[1],
    m[0] * n[2] + m[2] * n[3],
    m[1] * n[2] + m[3] * n[3],
    m[0] * n[4] + m[2] * n[5] + m[4],
    m[1] * n[4] + m[3] * n[5] + m[5],
  ]
}

/** By how much a map changes areas; negative where it mirrors. */
export const determinant = (m: Affine): number => m[0] * m[3] - m[1] * m[2]

/** Inverse map, or null where the map flattens the plane. */
export function invert(m: Affine): Affine | null {
  const det = determinant(m)
  if (!(Math.abs(det) > 1e-12)) return null
  const a = m[3] / det
  const b = -m[1] / det
  const c = -m[2] / det
  const d = m[0] / det
  return [a, b, c, d, -(a * m[4] + c * m[5]), -(b * m[4] + d * m[5])]
}

/** Where a map takes a spot. */
export const apply = (m: Affine, p: Vec): Vec => ({ x: m[0] * p.x + m[2] * p.y + m[4], y: m[1] * p.x + m[3] * p.y + m[5] })

/** Points [2n] under a map. */
export const mapPoints = (m: Affine, points: readonly number[]): number[] =>
  points.map((v, i) => (i % 2 === 0 ? m[0] * v + m[2] * points[i + 1]! + m[4] : m[1] * points[i - 1]! + m[3] * v + m[5]))

/** The map that shifts by x and y. */
export const translation = (x: number, y: number): Affine => [1, 0, 0, 1, x, y]

/** Turn about a point; degrees, counter-clockwise on screen. */
export function turnAbout(degrees: number, centre: Vec): Affine {
  const c = Math.cos(toRadians(degrees))
  const s = Math.sin(toRadians(degrees))
  return [c, -s, s, c, centre.x - c * centre.x - s * centre.y, centre.y + s * centre.x - c * centre.y]
}

/** Whether a map keeps angles (up to mirroring), so that a round nib stays round. */
export function keepsAngles(m: readonly number[], tolerance = 1e-6): boolean {
  const [a = 0, b = 0, c = 0, d = 0] = m
  const size = a * a + b * b + c * c + d * d
  const skewed = Math.abs(a * c + b * d)
  const stretched = Math.abs(a * a + b * b - c * c - d * d)
  return skewed <= tolerance * size && stretched <= tolerance * size
}

/** The map of a placement about a pivot: T(pivot + move) · turn · skew · scale · T(-pivot). */
export function placementMatrix(p: Placement, pivot: Vec): Affine {
  const cos = Math.cos(toRadians(p.angle))
  const sin = Math.sin(toRadians(p.angle))
  const lean = Math.tan(toRadians(p.skew))
  const a = cos * p.scaleX
  const b = -sin * p.scaleX
  const c = (cos * lean + sin) * p.scaleY
  const d = (-sin * lean + cos) * p.scaleY
  return [a, b, c, d, p.x + pivot.x - a * pivot.x - c * pivot.y, p.y + pivot.y - b * pivot.x - d * pivot.y]
}

/**
 * The placement about a pivot that gives this map: exact for every invertible map, mirrored ones included. A map
 * that flattens the plane onto a line keeps its x axis and loses the rest.
 */
export function placementOf(m: Affine, pivot: Vec): Placement {
  const x = m[0] * pivot.x + m[2] * pivot.y + m[4] - pivot.x
  const y = m[1] * pivot.x + m[3] * pivot.y + m[5] - pivot.y
  const scaleX = Math.hypot(m[0], m[1])
  if (scaleX === 0) {
    // The x axis is flattened: turn so that the y axis keeps its direction, nothing to skew.
    return { x, y, angle: toDegrees(Math.atan2(m[2], m[3])), scaleX: 0, scaleY: Math.hypot(m[2], m[3]), skew: 0 }
  }
  const cos = m[0] / scaleX
  const sin = -m[1] / scaleX
  const along = cos * m[2] - sin * m[3]
  const scaleY = sin * m[2] + cos * m[3]
  const lean = scaleY === 0 ? 0 : along / scaleY
  return { x, y, angle: toDegrees(Math.atan2(sin, cos)), scaleX, scaleY, skew: toDegrees(Math.atan(lean)) }
}

/** The map that stands at a place of an array of maps. */
export const affineAt = (m: ArrayLike<number>, at: number): Affine => [m[at]!, m[at + 1]!, m[at + 2]!, m[at + 3]!, m[at + 4]!, m[at + 5]!]
