/**
 * Cages: a lattice over a box whose points are moved, and all that lies in it with them. Moves are interpolated
 * straight (bilinear) or smoothly (bicubic after Catmull and Rom 1974, through the points), and go on straight beyond the
 * box: affine moves of the points give the same affine map everywhere.
 */
import { toRadians } from '../maths/geometry/affine'
import type { Prepared, Shape, ShapeSlots } from './shape'
import { z } from 'zod'
import { Box } from '../artwork/records'
import type { HandleId } from '../kernel/ids'
import { finite } from '../kernel/numbers'
import { deformerFields, ONE_SPOT, type DeformerKind } from './kind'

/**
 * A lattice of `columns` by `rows` cells over a box, turned by `angle` degrees about its middle. `form`
 * [2 (columns + 1) (rows + 1)] moves its points, row by row from the top, in px of the lattice before it is turned.
 */
export const Cage = z
  .object({
    kind: z.literal('cage'),
    ...deformerFields,
    box: Box,
    angle: finite,
    columns: z.number().int().min(1).max(24),
    rows: z.number().int().min(1).max(24),
    smooth: z.boolean(),
    form: z.array(finite),
  })
  .refine((c) => c.form.length === 2 * (c.columns + 1) * (c.rows + 1), 'the form of a cage holds two numbers for each of its points')
export type Cage = z.infer<typeof Cage>

/** Id of the handle at a point of a cage's lattice. */
export const cageHandle = (cage: string, column: number, row: number): HandleId => `${cage}.${column}.${row}`

const NOTHING: Prepared = new Float64Array(0)

/** A cage, compiled. */
export class CageShape implements Shape {
  readonly cell: number
  /**
   * [2 (columns + 3) (rows + 3)] moves of the points, px, along the axes of the turned box; with a rim of points just
   * outside, which go on straight from the two at the border
   */
  private readonly moves: Float64Array
  private readonly cos: number
  private readonly sin: number
  private readonly middleX: number
  private readonly middleY: number
  /** Basis of one axis: weights of four points, their derivatives, and the share between the middle two they are for. */
  private readonly across = new Float64Array(9)
  private readonly down = new Float64Array(9)

  constructor(private readonly cage: Cage) {
    const { box, columns, rows, angle } = cage
    this.moves = new Float64Array(2 * (columns + 3) * (rows + 3))
    this.cos = Math.cos(toRadians(angle))
    this.sin = Math.sin(toRadians(angle))
    this.middleX = box.x + box.width / 2
    this.middleY = box.y + box.height / 2
    this.cell = Math.max(4, Math.min(box.width / columns || Infinity, box.height / rows || Infinity))
  }

  pose(pose: Float64Array, { own, handles, stride }: ShapeSlots): boolean {
    const { form, columns, rows, box } = this.cage
    const amount = pose[own]! >= 0.5 ? pose[own + 1]! : 0
    let isMoved = false
    for (let row = 0; row <= rows; row++)
      for (let column = 0; column <= columns; column++) {
        const k = row * (columns + 1) + column
        const at = 2 * ((row + 1) * (columns + 3) + column + 1)
        const slot = handles + k * stride
        // Handles move on the axes of the part; the lattice keeps its moves on its own.
        const dx = pose[slot]!
        const dy = pose[slot + 1]!
        this.moves[at] = amount * (form[2 * k]! + this.cos * dx - this.sin * dy)
        this.moves[at + 1] = amount * (form[2 * k + 1]! + this.sin * dx + this.cos * dy)
        if (this.moves[at] !== 0 || this.moves[at + 1] !== 0) isMoved = true
      }
    if (!isMoved || box.width <= 0 || box.height <= 0) return false
    this.extend()
    return true
  }

  /** Sets the rim: its points beside the lattice, then those above and below, corners among them. */
  private extend(): void {
    const { columns, rows } = this.cage
    const wide = 2 * (columns + 3)
    for (let row = 1; row <= rows + 1; row++) {
      this.goOn(row * wide, 2)
      this.goOn(row * wide + 2 * (columns + 2), -2)
    }
    for (let column = 0; column < columns + 3; column++) {
      this.goOn(2 * column, wide)
      this.goOn((rows + 2) * wide + 2 * column, -wide)
    }
  }

  /** Sets a point from the two that lie `step` and twice as far from it. */
  private goOn(at: number, step: number): void {
    const { moves } = this
    for (let axis = 0; axis < 2; axis++) moves[at + axis] = 2 * moves[at + step + axis]! - moves[at + 2 * step + axis]!
  }

  prepare(): Prepared {
    return NOTHING
  }

  apply(points: Float64Array): void {
    const { cos, sin, middleX, middleY, across, down, moves } = this
    const { box, columns, rows, smooth } = this.cage
    const wide = columns + 3
    for (let i = 0; i < points.length; i += 2) {
      const x = points[i]! - middleX
      const y = points[i + 1]! - middleY
      const u = ((cos * x - sin * y) / box.width + 0.5) * columns
      const v = ((sin * x + cos * y) / box.height + 0.5) * rows
      const uc = Math.min(columns, Math.max(0, u))
      const vc = Math.min(rows, Math.max(0, v))
      const column = Math.min(columns - 1, Math.floor(uc))
      const row = Math.min(rows - 1, Math.floor(vc))
      across[8] = uc - column
      down[8] = vc - row
      basis(smooth, across)
      basis(smooth, down)
      const du = u - uc
      const dv = v - vc
      let moveX = 0
      let moveY = 0
      for (let r = 0; r < 4; r++)
        for (let c = 0; c < 4; c++) {
          const weight = across[c]! * down[r]! + du * across[c + 4]! * down[r]! + dv * across[c]! * down[r + 4]!
          const at = 2 * ((row + r) * wide + column + c)
          moveX += weight * moves[at]!
          moveY += weight * moves[at + 1]!
        }
      points[i] = points[i]! + cos * moveX + sin * moveY
      points[i + 1] = points[i + 1]! - sin * moveX + cos * moveY
    }
  }
}

/** Weights of four points at a share between the middle two, which stands last, then their derivatives. */
function basis(smooth: boolean, out: Float64Array): void {
  const t = out[8]!
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

/** Deforming by a lattice: what the table of deformers knows of it. */
export const cageKind: DeformerKind<Cage> = {
  label: 'cage',
  schema: Cage,
  filesHandles: false,
  isSmooth: true,
  handles: ({ id, columns, rows }) =>
    Array.from({ length: (columns + 1) * (rows + 1) }, (_, k) => cageHandle(id, k % (columns + 1), Math.floor(k / (columns + 1)))),
  places({ box, columns, rows, form, angle }, amount) {
    const c = Math.cos(toRadians(angle))
    const s = Math.sin(toRadians(angle))
    return Array.from({ length: (columns + 1) * (rows + 1) }, (_, k) => {
      const x = box.width * ((k % (columns + 1)) / columns - 0.5) + amount * form[2 * k]!
      const y = box.height * (Math.floor(k / (columns + 1)) / rows - 0.5) + amount * form[2 * k + 1]!
      return { x: box.x + box.width / 2 + c * x + s * y, y: box.y + box.height / 2 - s * x + c * y }
    })
  },
  handleName: ({ name }, at) => `${name}, point ${at + 1}`,
  // Points of cages only move.
  hasField: () => false,
  underId: (d, id) => ({ ...d, id }),
  shape: (d) => new CageShape(d),
  fault: ({ box }) => (box.width < ONE_SPOT || box.height < ONE_SPOT ? 'has a cage without breadth or height' : null),
}
