/**
 * The paint list: what is painted, bottom to top, as a flat list with balanced pushes and pops.
 *
 * Masking parts are painted on their own, so their entries stand behind those of the picture, each part once.
 */
import type { PartId } from '../kernel/ids'
import type { BlendMode, Effect, Mask } from '../layering/records'
import type { Drawing } from '../artwork/records'
import type { Part, Puppet } from './schema'
import { drawingOf } from '../parts/tree'
import type { RigDrawing } from '../placement/drawing'

/** A mask ready to be painted: the entries of the paint list in its range draw the masking part. */
export interface RigMask {
  readonly keep: Mask['keep']
  readonly by: Mask['by']
  /** Width over which its edge fades, canvas px; 0 for a crisp one. */
  readonly soft: number
  readonly range: { readonly from: number; readonly to: number }
}

/** How a part is laid over what lies below, where that is more than painting over it. */
export interface Layer {
  readonly blend: BlendMode
  readonly effect: Effect | null
  readonly masks: readonly RigMask[]
}

/** Painting as a flat list with balanced pushes and pops; `end` is the matching pop. */
export type PaintOp =
  | { readonly op: 'push'; readonly part: number; readonly end: number; readonly layer: Layer | null }
  | { readonly op: 'draw'; readonly drawing: number }
  | { readonly op: 'pop'; readonly part: number }

/** What a rig paints, in order. */
export interface PaintList {
  /** Bottom to top: `shown` of them, then those that only mask. What is hidden, masks nothing and cannot be shown is left out. */
  readonly drawings: readonly RigDrawing[]
  readonly shown: number
  /** The first `painted` entries make the picture; those behind draw masking parts. */
  readonly paint: readonly PaintOp[]
  readonly painted: number
}

/** Where the entries of a masking part stand; filled in after those that use it. */
interface Range {
  from: number
  to: number
}

/**
 * @param parts in the order of the rig's part table
 * @param makeDrawing compiles what the part at an index shows
 * @param mayShow whether a part that is hidden may be shown in a pose
 */
export function writePaintList(
  puppet: Puppet,
  parts: readonly { readonly part: Part }[],
  index: ReadonlyMap<PartId, number>,
  makeDrawing: (at: number, drawing: Drawing) => RigDrawing,
  mayShow: (part: PartId) => boolean,
): PaintList {
  const drawings: RigDrawing[] = []
  const paint: PaintOp[] = []
  const drawn = new Map<number, number>()
  const ranges = new Map<PartId, Range>()
  const anyBlend = parts.some((p) => p.part.blend !== 'normal')

  const rangeOf = (shape: PartId): Range => {
    const range = ranges.get(shape) ?? { from: 0, to: 0 }
    ranges.set(shape, range)
    return range
  }
  const layerOf = (part: Part): Layer | null => {
    // What blends must not reach beyond the picture, nor beyond a part that is isolated.
    const isGround = anyBlend && (part.isolated || part.parent === null)
    if (part.blend === 'normal' && !isGround && part.effect === null && part.masks.length === 0) return null
    const masks = part.masks.map(({ shape, keep, by, soft = 0 }) => ({ keep, by, soft, range: rangeOf(shape) }))
    return { blend: part.blend, effect: part.effect, masks }
  }
  const drawingAt = (at: number, drawing: Drawing): number => {
    const d = drawn.get(at) ?? drawings.push(makeDrawing(at, drawing)) - 1
    drawn.set(at, d)
    return d
  }
  const walk = (at: number, isMask: boolean): void => {
    const { part } = parts[at]!
    // A masking part masks even where it is hidden itself.
    if (!isMask && !part.visible && !mayShow(part.id)) return
    const push = paint.length
    const layer = layerOf(part)
    paint.push({ op: 'push', part: at, end: 0, layer })
    const drawing = drawingOf(puppet, part)
    if (drawing) paint.push({ op: 'draw', drawing: drawingAt(at, drawing) })
    if (part.merged === null) for (const child of part.children) walk(index.get(child)!, false)
    paint[push] = { op: 'push', part: at, end: paint.length, layer }
    paint.push({ op: 'pop', part: at })
  }

  walk(0, false)
  const shown = drawings.length
  const painted = paint.length
  // A map goes on to entries that are added while it is walked: masks of masks.
  for (const [shape, range] of ranges) {
    range.from = paint.length
    walk(index.get(shape)!, true)
    range.to = paint.length
  }
  return { drawings, shown, paint, painted }
}

/**
 * The paint list with parts in another order among their siblings.
 *
 * @param stepsOf by how many siblings a part goes to the front, or back where it is negative
 */
function reorderedPaint({ paint, painted }: PaintList, stepsOf: (part: number) => number): readonly PaintOp[] {
  const out: PaintOp[] = []
  const copy = (from: number, to: number): void => {
    const children: { from: number; to: number; place: number }[] = []
    for (let i = from; i < to; i++) {
      const op = paint[i]!
      if (op.op !== 'push') {
        out.push(op)
        continue
      }
      const steps = stepsOf(op.part)
      // Just past as many siblings as it goes by.
      children.push({ from: i, to: op.end, place: children.length + steps + 0.5 * Math.sign(steps) })
      i = op.end
    }
    children.sort((a, b) => a.place - b.place)
    for (const child of children) {
      const push = paint[child.from] as Extract<PaintOp, { op: 'push' }>
      const at = out.length
      out.push(push)
      copy(child.from + 1, child.to)
      out[at] = { ...push, end: out.length }
      out.push(paint[child.to]!)
    }
  }
  copy(0, painted)
  for (let i = painted; i < paint.length; i++) out.push(paint[i]!)
  return out
}

/** Paint lists in other orders that were made for a rig, with the steps of their parts. */
const orders = new WeakMap<readonly PaintOp[], { readonly steps: Int32Array; readonly list: readonly PaintOp[] }[]>()
const MOST_ORDERS = 64

/** The paint list for an order [p]; made once for each. */
export function paintInOrder(source: PaintList, steps: Int32Array): readonly PaintOp[] {
  let known = orders.get(source.paint)
  if (!known) orders.set(source.paint, (known = []))
  for (let k = 0; k < known.length; k++) if (isSameOrder(known[k]!.steps, steps)) return known[k]!.list
  if (known.length >= MOST_ORDERS) known.length = 0
  const list = reorderedPaint(source, (p) => steps[p]!)
  known.push({ steps: steps.slice(), list })
  return list
}

function isSameOrder(a: Int32Array, b: Int32Array): boolean {
  for (let p = 0; p < a.length; p++) if (a[p] !== b[p]) return false
  return true
}
