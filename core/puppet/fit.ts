/** The affine map that comes nearest to what a bend did to a shape: gradients and slanted nibs follow it. */
import type { Affine } from '../kernel/numbers'
import type { ShapeGeometry } from '../artwork/flat/flat'
import type { Frame } from './frame'

/**
 * Least-squares affine map from the rest points of a bent shape to its posed points (normal equations, solved
 * about the centroids).
 *
 * @returns part space to canvas; a plain shift where the shape's points lie on one line
 */
export function fitAffine(frame: Frame, d: number, shape: ShapeGeometry): Affine {
  const rest = frame.rig.drawings[d]!.geometry.points
  const posed = frame.points[d]!
  const n = shape.count
  let cx = 0
  let cy = 0
  let dx = 0
  let dy = 0
  for (let i = shape.first; i < shape.first + n; i++) {
    cx += rest[2 * i]! / n
    cy += rest[2 * i + 1]! / n
    dx += posed[2 * i]! / n
    dy += posed[2 * i + 1]! / n
  }
  let xx = 0
  let xy = 0
  let yy = 0
  let ux = 0
  let uy = 0
  let vx = 0
  let vy = 0
  for (let i = shape.first; i < shape.first + n; i++) {
    const x = rest[2 * i]! - cx
    const y = rest[2 * i + 1]! - cy
    const u = posed[2 * i]! - dx
    const v = posed[2 * i + 1]! - dy
    xx += x * x
    xy += x * y
    yy += y * y
    ux += u * x
    uy += u * y
    vx += v * x
    vy += v * y
  }
  const det = xx * yy - xy * xy
  if (!(det > 1e-9 * (xx + yy) * (xx + yy))) return [1, 0, 0, 1, dx - cx, dy - cy]
  const a = (ux * yy - uy * xy) / det
  const c = (uy * xx - ux * xy) / det
  const b = (vx * yy - vy * xy) / det
  const e = (vy * xx - vx * xy) / det
  return [a, b, c, e, dx - a * cx - c * cy, dy - b * cx - e * cy]
}
