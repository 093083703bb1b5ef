/**
 * Drawings as they are seen in a pose, edited there and written back to rest.
 *
 * In a pose an anchor lies where the pose takes it, and its handles are what the pose does to them there. What is
 * changed is written back through the inverse; what is not keeps its rest exactly. A path that was drawn on the posed
 * puppet is split until the pose takes the written one to what was drawn.
 */
import type { Drawing, Path, Shape } from '../artwork/records'
import type { Vec } from '../kernel/numbers'
import { cubicAt, cubicBetween, segmentAt, segmentCount } from '../maths/geometry/pathCut'
import { FLAT, stepBack, type Jacobian, type PosedMap } from '../puppet/posedMap'

/** Thrown where the pose folds or flattens a drawing so that a spot of the canvas has no one place in it. */
export class FoldedError extends Error {
  constructor() {
    super('The drawing is folded or flattened here, so this cannot be drawn in this pose; bring it nearer to rest.')
  }
}

const forward = ([a, b, c, d]: Jacobian, x: number, y: number): [number, number] => [a * x + c * y, b * x + d * y]

function backward(bend: Jacobian, x: number, y: number): [number, number] {
  const step = stepBack(bend, x, y, FLAT)
  if (!step) throw new FoldedError()
  return step
}

/** A path as it is seen in a pose. */
export function posePath(path: Path, map: PosedMap): Path {
  const anchors: number[] = []
  const handles: number[] = []
  for (let i = 0; i < path.ids.length; i++) {
    const at = { x: path.anchors[2 * i]!, y: path.anchors[2 * i + 1]! }
    const posed = map.toCanvas(at)
    anchors.push(posed.x, posed.y)
    const [inX, inY, outX, outY] = path.handles.slice(4 * i, 4 * i + 4) as [number, number, number, number]
    const bend = inX || inY || outX || outY ? map.derivative(at) : null
    handles.push(...(bend ? [...forward(bend, inX, inY), ...forward(bend, outX, outY)] : [0, 0, 0, 0]))
  }
  return { ...path, anchors, handles }
}

/** A drawing as it looks where a map takes it. */
export const poseDrawing = (drawing: Drawing, map: PosedMap): Drawing => ({
  ...drawing,
  shapes: drawing.shapes.map((s) => ({ ...s, paths: s.paths.map((p) => posePath(p, map)) })),
})

/** An anchor with its handles in and out, relative to it. */
export interface DrawnPoint {
  readonly x: number
  readonly y: number
  readonly handles: readonly number[]
}

/** Points of a drawing by their ids. */
export function pointsOf(drawing: Pick<Drawing, 'shapes'>): Map<number, DrawnPoint> {
  const out = new Map<number, DrawnPoint>()
  for (const { paths } of drawing.shapes)
    for (const { ids, anchors, handles } of paths)
      ids.forEach((id, i) => out.set(id, { x: anchors[2 * i]!, y: anchors[2 * i + 1]!, handles: handles.slice(4 * i, 4 * i + 4) }))
  return out
}

/** Differences smaller than this, px, are none. */
const SAME = 1e-7

/** Whether two drawn points and their handles differ by no more than rounding. */
export const isSamePoint = (a: DrawnPoint, b: DrawnPoint): boolean =>
  Math.abs(a.x - b.x) < SAME && Math.abs(a.y - b.y) < SAME && a.handles.every((h, k) => Math.abs(h - b.handles[k]!) < SAME)

/**
 * Writes an edit of a posed drawing to its rest.
 *
 * @param rest the drawing before the edit
 * @param before the same as it was seen
 * @param after what was made of that; points are told by their ids
 * @returns the drawing after the edit, at rest. Throws FoldedError
 */
export function writeBack(rest: Drawing, before: Drawing, after: Drawing, map: PosedMap): Drawing {
  const [known, seen] = [pointsOf(rest), pointsOf(before)]
  const shapes = after.shapes.map((shape): Shape => ({ ...shape, paths: shape.paths.map((path) => pathBack(path, known, seen, map)) }))
  return { ...after, shapes }
}

function pathBack(path: Path, known: ReadonlyMap<number, DrawnPoint>, seen: ReadonlyMap<number, DrawnPoint>, map: PosedMap): Path {
  const anchors: number[] = []
  const handles: number[] = []
  path.ids.forEach((id, i) => {
    const now: DrawnPoint = { x: path.anchors[2 * i]!, y: path.anchors[2 * i + 1]!, handles: path.handles.slice(4 * i, 4 * i + 4) }
    const [old, was] = [known.get(id), seen.get(id)]
    const kept = old && was && isSamePoint(was, now) ? old : pointBack(old && was ? without(now, was, old, map) : now, old, map)
    anchors.push(kept.x, kept.y)
    handles.push(...kept.handles)
  })
  return { ...path, anchors, handles }
}

/** A point less what is seen of it besides its pose: what responses move of it is not its rest. */
function without(now: DrawnPoint, seen: DrawnPoint, rest: DrawnPoint, map: PosedMap): DrawnPoint {
  const posed = map.toCanvas(rest)
  const bend = rest.handles.some((h) => h !== 0) ? map.derivative(rest) : null
  const [a, b, c, d] = rest.handles as [number, number, number, number]
  const handles = bend ? [...forward(bend, a, b), ...forward(bend, c, d)] : [0, 0, 0, 0]
  return {
    x: now.x - (seen.x - posed.x),
    y: now.y - (seen.y - posed.y),
    handles: now.handles.map((h, k) => h - (seen.handles[k]! - handles[k]!)),
  }
}

function pointBack({ x, y, handles }: DrawnPoint, near: Vec | undefined, map: PosedMap): DrawnPoint {
  const at = spotBack(x, y, map, near)
  if (handles.every((h) => h === 0)) return { ...at, handles }
  const bend = map.derivative(at)
  return { ...at, handles: [...backward(bend, handles[0]!, handles[1]!), ...backward(bend, handles[2]!, handles[3]!)] }
}

/** Farthest that the pose may take a written path from what was drawn, px. */
const STRAY = 0.04
const DEEPEST = 7

/**
 * A path that was drawn on the posed puppet, at rest: the pose takes it to what was drawn, within a twentieth of a px.
 *
 * @param nextId gives ids to anchors that splitting adds. Throws FoldedError
 */
export function restPath(path: Path, map: PosedMap, nextId: () => number): Path {
  const out = { ids: [] as number[], anchors: [] as number[], handles: [] as number[] }
  const widths: number[] = path.widths ? [path.widths[0]!] : []
  const put = (at: Vec, id: number): void => {
    out.ids.push(id)
    out.anchors.push(at.x, at.y)
    out.handles.push(0, 0, 0, 0)
  }
  const first = spotBack(path.anchors[0]!, path.anchors[1]!, map)
  put(first, path.ids[0]!)
  const count = segmentCount(path)
  let near = first
  for (let i = 0; i < count; i++) {
    const pieces = restPieces(segmentAt(path, i), map, near, 0)
    pieces.forEach((c, k) => {
      const last = out.ids.length - 1
      out.handles[4 * last + 2] = c[2]! - c[0]!
      out.handles[4 * last + 3] = c[3]! - c[1]!
      const isEnd = k === pieces.length - 1
      const isClosing = isEnd && path.closed && i === count - 1
      if (!isClosing) put({ x: c[6]!, y: c[7]! }, isEnd ? path.ids[(i + 1) % path.ids.length]! : nextId())
      const to = isClosing ? 0 : out.ids.length - 1
      out.handles[4 * to] = c[4]! - c[6]!
      out.handles[4 * to + 1] = c[5]! - c[7]!
    })
    if (path.widths) widths.push(...widthsAlong(pieces, path.widths[i]!, path.widths[(i + 1) % path.ids.length]!))
    near = { x: pieces.at(-1)![6]!, y: pieces.at(-1)![7]! }
  }
  return { closed: path.closed, ...out, ...(path.widths && { widths: widths.slice(0, out.ids.length) }) }
}

/** Thickness at the end of each piece of a stretch, straight from one to the other by how far along the piece ends. */
function widthsAlong(pieces: readonly Cubic[], from: number, to: number): number[] {
  const lengths = pieces.map((c) => Math.hypot(c[6]! - c[0]!, c[7]! - c[1]!))
  const total = lengths.reduce((sum, l) => sum + l, 0) || 1
  let along = 0
  return lengths.map((l) => from + ((along += l) / total) * (to - from))
}

type Cubic = readonly number[]

/** Cubics at rest that the pose takes to a posed cubic. */
function restPieces(posed: Cubic, map: PosedMap, near: Vec, depth: number): Cubic[] {
  const from = spotBack(posed[0]!, posed[1]!, map, near)
  const to = spotBack(posed[6]!, posed[7]!, map, from)
  const out = backward(map.derivative(from), posed[2]! - posed[0]!, posed[3]! - posed[1]!)
  const into = backward(map.derivative(to), posed[4]! - posed[6]!, posed[5]! - posed[7]!)
  const straight = posed[2] === posed[0] && posed[3] === posed[1] && posed[4] === posed[6] && posed[5] === posed[7]
  const rest = [from.x, from.y, from.x + out[0], from.y + out[1], to.x + into[0], to.y + into[1], to.x, to.y]
  if (depth >= DEEPEST || strayOf(rest, posed, map) <= STRAY) return [rest]
  // A straight line that bends becomes a curve: its handles lie on it.
  const curve = straight ? lineCubic(posed) : posed
  const [left, right] = [half(curve, 0, 0.5), half(curve, 0.5, 1)]
  const first = restPieces(left, map, from, depth + 1)
  const end = first.at(-1)!
  return [...first, ...restPieces(right, map, { x: end[6]!, y: end[7]! }, depth + 1)]
}

const half = (c: Cubic, from: number, to: number): Cubic => cubicBetween(c as never, from, to)

const lineCubic = ([x0, y0, , , , , x3, y3]: Cubic): Cubic => [
  x0!,
  y0!,
  x0! + (x3! - x0!) / 3,
  y0! + (y3! - y0!) / 3,
  x3! - (x3! - x0!) / 3,
  y3! - (y3! - y0!) / 3,
  x3!,
  y3!,
]

function spotBack(x: number, y: number, map: PosedMap, near?: Vec): Vec {
  const at = map.toPart({ x, y }, near)
  if (!at) throw new FoldedError()
  return at
}

/** How far the image of a cubic at rest strays from a posed one, at some parameters. */
function strayOf(rest: Cubic, posed: Cubic, map: PosedMap): number {
  let most = 0
  for (const t of [0.2, 0.4, 0.6, 0.8]) {
    const image = map.toCanvas(cubicAt(rest, t))
    const wanted = cubicAt(posed, t)
    most = Math.max(most, Math.hypot(image.x - wanted.x, image.y - wanted.y))
  }
  return most
}
