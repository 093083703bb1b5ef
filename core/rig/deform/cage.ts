/**
 * Cages: a lattice over a box whose points are moved, and all that lies in it with them. Moves are interpolated
 * straight (bilinear) or smoothly (bicubic after Catmull and Rom 1974, through the points), and go on straight beyond the
 * box: affine moves of the points give the same affine map everywhere.
 */
import type { Cage } from '../../document/schema'
import { toRadians } from '../../geometry/affine'
import type { Prepared, Shape, ShapeSlots } from './shape'

const NOTHING: Prepared = new Float64Array(0)

export class CageShape implements Shape {
  readonly cell: number
  /** [2 (columns + 1) (rows + 1)] moves of the points, px, along the axes of the turned box */
  private readonly moves: Float64Array
  private readonly cos: number
  private readonly sin: number
  private readonly middleX: number
  private readonly middleY: number
  /** Basis of one axis: weights of four points and their derivatives. */
  private readonly across = new Float64Array(8)
  private readonly down = new Float64Array(8)

  constructor(private readonly cage: Cage) {
    const { box, columns, rows, angle } = cage
    this.moves = new Float64Array(cage.form.length)
    this.cos = Math.cos(toRadians(angle))
    this.sin = Math.sin(toRadians(angle))
    this.middleX = box.x + box.width / 2
    this.middleY = box.y + box.height / 2
    this.cell = Math.max(4, Math.min(box.width / columns || Infinity, box.height / rows || Infinity))
  }

  pose(pose: Float64Array, { own, handles, stride }: ShapeSlots): boolean {
    const { form } = this.cage
    const amount = pose[own]! >= 0.5 ? pose[own + 1]! : 0
    let isMoved = false
    for (let k = 0; k < form.length; k += 2) {
      const slot = handles + (k / 2) * stride
      // Handles move on the axes of the part; the lattice keeps its moves on its own.
      const dx = pose[slot]!
      const dy = pose[slot + 1]!
      this.moves[k] = amount * (form[k]! + this.cos * dx - this.sin * dy)
      this.moves[k + 1] = amount * (form[k + 1]! + this.sin * dx + this.cos * dy)
      if (this.moves[k] !== 0 || this.moves[k + 1] !== 0) isMoved = true
    }
    return isMoved && this.cage.box.width > 0 && this.cage.box.height > 0
  }

  prepare(): Prepared {
    return NOTHING
  }

  apply(points: Float64Array): void {
    const { cage, cos, sin, middleX, middleY } = this
    const { box, columns, rows } = cage
    for (let i = 0; i < points.length; i += 2) {
      const x = points[i]! - middleX
      const y = points[i + 1]! - middleY
      const u = ((cos * x - sin * y) / box.width + 0.5) * columns
      const v = ((sin * x + cos * y) / box.height + 0.5) * rows
      this.move(u, v, points, i)
    }
  }

  /** Adds the move at lattice coordinates to a point. */
  private move(u: number, v: number, points: Float64Array, at: number): void {
    const { columns, rows, smooth } = this.cage
    const uc = Math.min(columns, Math.max(0, u))
    const vc = Math.min(rows, Math.max(0, v))
    const column = Math.min(columns - 1, Math.floor(uc))
    const row = Math.min(rows - 1, Math.floor(vc))
    const { across, down, moves } = this
    basis(uc - column, smooth, across)
    basis(vc - row, smooth, down)
    let x = 0
    let y = 0
    const du = u - uc
    const dv = v - vc
    for (let r = 0; r < 4; r++)
      for (let c = 0; c < 4; c++) {
        const weight = across[c]! * down[r]! + du * across[c + 4]! * down[r]! + dv * across[c]! * down[r + 4]!
        if (weight === 0) continue
        const k = column + c - 1
        const l = row + r - 1
        x += weight * this.lattice(moves, k, l, 0)
        y += weight * this.lattice(moves, k, l, 1)
      }
    points[at]! += this.cos * x + this.sin * y
    points[at + 1]! += -this.sin * x + this.cos * y
  }

  /** Move of a lattice point; points just outside go on straight from the two at the rim. */
  private lattice(moves: Float64Array, column: number, row: number, axis: number): number {
    const { columns, rows } = this.cage
    const c = Math.min(columns, Math.max(0, column))
    const r = Math.min(rows, Math.max(0, row))
    const wide = columns + 1
    const here = moves[2 * (r * wide + c) + axis]!
    if (c === column && r === row) return here
    const c2 = c === column ? c : c - (column - c)
    const r2 = r === row ? r : r - (row - r)
    if (c === column) return 2 * here - moves[2 * (r2 * wide + c) + axis]!
    if (r === row) return 2 * here - moves[2 * (r * wide + c2) + axis]!
    const atRow = 2 * here - moves[2 * (r * wide + c2) + axis]!
    const inRow = 2 * moves[2 * (r2 * wide + c) + axis]! - moves[2 * (r2 * wide + c2) + axis]!
    return 2 * atRow - inRow
  }
}

/** Weights of four points at a share t between the middle two, then their derivatives. */
function basis(t: number, smooth: boolean, out: Float64Array): void {
  if (!smooth) {
    out[0] = 0
    out[1] = 1 - t
    out[2] = t
    out[3] = 0
    out[4] = 0
    out[5] = -1
    out[6] = 1
    out[7] = 0
    return
  }
  const t2 = t * t
  const t3 = t2 * t
  out[0] = (-t3 + 2 * t2 - t) / 2
  out[1] = (3 * t3 - 5 * t2 + 2) / 2
  out[2] = (-3 * t3 + 4 * t2 + t) / 2
  out[3] = (t3 - t2) / 2
  out[4] = (-3 * t2 + 4 * t - 1) / 2
  out[5] = (9 * t2 - 10 * t) / 2
  out[6] = (-9 * t2 + 8 * t + 1) / 2
  out[7] = (3 * t2 - 2 * t) / 2
}
