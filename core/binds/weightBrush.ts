/**
 * Painting weights: strokes of a brush on the vertices of a weight field, one bone at a time.
 *
 * Weights are held as dense rows while they are painted, so that a dab touches only the vertices under it. What the
 * painted bone gains, the other bones of a vertex give, in proportion, but for locked ones; and the other way round.
 */
import { emptyBounds, include } from '../maths/geometry/bounds'
import { denseRows, fieldOf, neighboursIn } from './weightFields'
import type { WeightField } from './records'

/** What a brush does to the weight of a bone. */
export type BrushMode = 'add' | 'remove' | 'smooth' | 'replace' | 'sharpen'

/** A brush for weights. */
export interface Brush {
  readonly mode: BrushMode
  /** Position of the painted bone in the bind. */
  readonly bone: number
  readonly radius: number
  /** 0 to 1: how much a dab does in its middle. */
  readonly strength: number
  /** Weight that `replace` paints, 0 to 1. */
  readonly value: number
  /** Share of the radius over which a dab fades. */
  readonly falloff: number
}

/** Weights while they are painted. Strokes change `rows` in place; nothing of the document changes. */
export class WeightCanvas {
  /** [n b] rows sum to 1 */
  readonly rows: Float64Array
  private readonly next: Float64Array
  private readonly grid = new Map<number, number[]>()
  private readonly cell: number
  private readonly around: readonly (readonly number[])[]
  private readonly touched: number[] = []

  /**
   * @param places [2n] where the vertices are painted: at rest, or as they are posed
   * @param bones how many bones the bind has
   */
  constructor(
    readonly field: WeightField,
    readonly bones: number,
    private readonly places: Float64Array,
  ) {
    const n = places.length / 2
    this.rows = denseRows(field, bones)
    this.next = new Float64Array(bones)
    this.around = neighboursIn(field)
    this.cell = Math.max(4, Math.sqrt(areaOf(places) / Math.max(1, n)) * 4)
    this.file()
  }

  /** Weight of one bone at each vertex [n]. */
  column(bone: number): Float64Array {
    return this.rows.filter((_, i) => i % this.bones === bone)
  }

  private file(): void {
    for (let v = 0; v < this.places.length / 2; v++) {
      const key = keyOf(Math.floor(this.places[2 * v]! / this.cell), Math.floor(this.places[2 * v + 1]! / this.cell))
      const list = this.grid.get(key)
      if (list) list.push(v)
      else this.grid.set(key, [v])
    }
  }

  /**
   * Paints one dab about a spot.
   *
   * @param locked [b] 1 for bones whose weights stay
   * @returns the vertices that it touched; the list is written anew with each dab
   */
  dab(x: number, y: number, brush: Brush, locked: Uint8Array): readonly number[] {
    const { touched, places, cell } = this
    touched.length = 0
    if (locked[brush.bone] === 1) return touched
    const from = Math.floor((x - brush.radius) / cell)
    const to = Math.floor((x + brush.radius) / cell)
    const top = Math.floor((y - brush.radius) / cell)
    const bottom = Math.floor((y + brush.radius) / cell)
    for (let c = from; c <= to; c++)
      for (let r = top; r <= bottom; r++) {
        const list = this.grid.get(keyOf(c, r))
        if (!list) continue
        for (let i = 0; i < list.length; i++) {
          const v = list[i]!
          const far = Math.hypot(places[2 * v]! - x, places[2 * v + 1]! - y)
          if (far > brush.radius) continue
          const edge = brush.radius * (1 - brush.falloff)
          const t = far <= edge ? 1 : 1 - (far - edge) / Math.max(brush.radius - edge, 1e-9)
          this.paint(v, brush, brush.strength * t * t * (3 - 2 * t), locked)
          touched.push(v)
        }
      }
    return touched
  }

  private paint(v: number, brush: Brush, share: number, locked: Uint8Array): void {
    const { rows, bones } = this
    if (brush.mode === 'smooth') return this.smooth(v, share, locked)
    const at = v * bones + brush.bone
    const now = rows[at]!
    const sharper = now >= 0.5 ? 1 : 0
    const wanted = {
      add: now + share,
      remove: now - share,
      replace: now + share * (brush.value - now),
      sharpen: now + share * (sharper - now) * 0.5,
    }[brush.mode]
    giveWeight(rows, bones, v, brush.bone, wanted, locked)
  }

  /** Draws a vertex towards the mean of its neighbours, for all bones that are not locked. */
  private smooth(v: number, share: number, locked: Uint8Array): void {
    const { rows, bones, next } = this
    const around = this.around[v]!
    if (around.length === 0) return
    let kept = 0
    let sum = 0
    for (let b = 0; b < bones; b++) {
      const now = rows[v * bones + b]!
      if (locked[b] === 1) {
        kept += now
        continue
      }
      let mean = 0
      for (let i = 0; i < around.length; i++) mean += rows[around[i]! * bones + b]!
      next[b] = now + share * (mean / around.length - now)
      sum += next[b]!
    }
    if (sum < 1e-9) return
    for (let b = 0; b < bones; b++) if (locked[b] !== 1) rows[v * bones + b] = (next[b]! * (1 - kept)) / sum
  }

  /** The field as it is painted: at most four bones for each vertex, the strongest first. */
  toField(): WeightField {
    return fieldOf(this.field, this.rows, this.bones)
  }
}

/**
 * Gives a bone a weight at a vertex; the others that are not locked share what is left as they did, or equally where they
 * had none.
 *
 * @param rows [n b] rows sum to 1; changed in place
 * @param locked [b] 1 for bones whose weights stay
 */
export function giveWeight(rows: Float64Array, bones: number, v: number, bone: number, wanted: number, locked: Uint8Array): void {
  const from = v * bones
  let kept = 0
  let free = 0
  let others = 0
  for (let b = 0; b < bones; b++) {
    if (b === bone) continue
    if (locked[b] === 1) kept += rows[from + b]!
    else {
      free += rows[from + b]!
      others++
    }
  }
  const room = Math.max(0, 1 - kept)
  // Without another bone to give to, a bone cannot lose.
  const weight = others === 0 ? room : Math.min(room, Math.max(0, wanted))
  rows[from + bone] = weight
  const left = room - weight
  for (let b = 0; b < bones; b++)
    if (b !== bone && locked[b] !== 1) rows[from + b] = free > 1e-9 ? (rows[from + b]! * left) / free : left / others
}

/** Cells of the grid by one number each. */
const keyOf = (column: number, row: number): number => (column + 32768) * 65536 + row + 32768

function areaOf(places: Float64Array): number {
  const box = emptyBounds()
  for (let i = 0; i < places.length; i += 2) include(box, places[i]!, places[i + 1]!)
  return Math.max(1, (box.maxX - box.minX) * (box.maxY - box.minY))
}
