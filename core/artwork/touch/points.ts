/** Edits of points and stretches of paths. All take and give whole paths; ids of points stay. */
import type { Drawing, Path, Shape } from '../records'
import type { Vec } from '../../kernel/numbers'
import { cubicAt, cubicBetween, segmentAt, segmentCount } from '../../maths/geometry/pathCut'
import { isStraight } from '../flat/flat'
import { fitCubic } from './fitCurve'

/** A drawing with its paths changed, the same where none is; a path for which nothing is given goes, and a shape without paths as well. */
export function changePaths(drawing: Drawing, change: (path: Path, shape: Shape) => Path | null): Drawing {
  const shapes = drawing.shapes.flatMap((shape) => {
    const paths = shape.paths.flatMap((p) => change(p, shape) ?? [])
    if (paths.length === 0) return []
    return paths.length === shape.paths.length && paths.every((p, i) => p === shape.paths[i]) ? [shape] : [{ ...shape, paths }]
  })
  const isSame = shapes.length === drawing.shapes.length && shapes.every((s, i) => s === drawing.shapes[i])
  return isSame ? drawing : { ...drawing, shapes }
}

const splice = <T>(list: readonly T[], at: number, remove: number, ...add: readonly T[]): T[] => [
  ...list.slice(0, at),
  ...add,
  ...list.slice(at + remove),
]

/** Adds a point to segment `i` at position `t`; the outline stays what it is, and what is straight has no handles afterwards either. */
export function addPoint(path: Path, i: number, t: number, id: number): Path {
  const c = segmentAt(path, i)
  const [left, right] = [cubicBetween(c, 0, t), cubicBetween(c, t, 1)]
  const j = (i + 1) % path.ids.length
  const handles = [...path.handles]
  const [x, y] = [left[6], left[7]]
  const straight = isStraight(path, i)
  const own = straight ? [0, 0, 0, 0] : [left[4] - x, left[5] - y, right[2] - x, right[3] - y]
  if (!straight) {
    handles[4 * i + 2] = left[2] - left[0]
    handles[4 * i + 3] = left[3] - left[1]
    handles[4 * j] = right[4] - right[6]
    handles[4 * j + 1] = right[5] - right[7]
  }
  const isHidden = path.hidden?.includes(path.ids[i]!)
  return {
    ...path,
    ids: splice(path.ids, i + 1, 0, id),
    anchors: splice(path.anchors, 2 * (i + 1), 0, x, y),
    handles: splice(handles, 4 * (i + 1), 0, ...own),
    ...(path.widths && { widths: splice(path.widths, i + 1, 0, path.widths[i]! + t * (path.widths[j]! - path.widths[i]!)) }),
    ...(isHidden && { hidden: [...path.hidden!, id] }),
  }
}

/** Places along a stretch at which a new curve is compared with the old ones. */
const SAMPLES = 16

/**
 * Takes points away; the curve that is left runs as near as one cubic can to what was there. Null where fewer than two
 * points are left.
 */
export function deletePoints(path: Path, gone: ReadonlySet<number>): Path | null {
  if (!path.ids.some((id) => gone.has(id))) return path
  const n = path.ids.length
  const kept = path.ids.map((_, i) => i).filter((i) => !gone.has(path.ids[i]!))
  if (kept.length < 2) return null
  const handles: number[] = kept.flatMap((i) => path.handles.slice(4 * i, 4 * i + 4))
  kept.forEach((from, k) => {
    const to = kept[(k + 1) % kept.length]!
    const last = k === kept.length - 1
    if (last && !path.closed) return
    const span = (to - from + n) % n || n
    if (span === 1) return
    const fitted = fitCubic(samplesOf(path, from, span), outgoing(path, from), incoming(path, to))
    handles[4 * k + 2] = fitted[2]! - fitted[0]!
    handles[4 * k + 3] = fitted[3]! - fitted[1]!
    const next = (k + 1) % kept.length
    handles[4 * next] = fitted[4]! - fitted[6]!
    handles[4 * next + 1] = fitted[5]! - fitted[7]!
  })
  const hidden = path.hidden?.filter((id) => !gone.has(id))
  return {
    ...path,
    ids: kept.map((i) => path.ids[i]!),
    anchors: kept.flatMap((i) => [path.anchors[2 * i]!, path.anchors[2 * i + 1]!]),
    handles,
    ...(path.widths && { widths: kept.map((i) => path.widths![i]!) }),
    ...(hidden && { hidden }),
  }
}

function samplesOf(path: Path, from: number, span: number): Vec[] {
  const out: Vec[] = []
  for (let s = 0; s < span; s++) {
    const c = segmentAt(path, (from + s) % path.ids.length)
    for (let k = s === 0 ? 0 : 1; k <= SAMPLES; k++) out.push(cubicAt(c, k / SAMPLES))
  }
  return out
}

/** Directions in which a path leaves and reaches a point; where it has no handle, towards its neighbour. */
function outgoing(path: Path, i: number): Vec {
  const [x, y] = [path.handles[4 * i + 2]!, path.handles[4 * i + 3]!]
  const c = segmentAt(path, i)
  return x || y ? { x, y } : { x: c[4] - c[0] || c[6] - c[0], y: c[5] - c[1] || c[7] - c[1] }
}

function incoming(path: Path, i: number): Vec {
  const [x, y] = [path.handles[4 * i]!, path.handles[4 * i + 1]!]
  const c = segmentAt(path, (i - 1 + path.ids.length) % path.ids.length)
  return x || y ? { x, y } : { x: c[2] - c[6] || c[0] - c[6], y: c[3] - c[7] || c[1] - c[7] }
}

/** Draws handles out of a point to both sides, alike in length; none where the drag is nothing: a corner. */
export function bendPoint(path: Path, i: number, dx: number, dy: number): Path {
  return { ...path, handles: splice(path.handles, 4 * i, 4, -dx || 0, -dy || 0, dx, dy) }
}

/**
 * Moves one handle of a point. Where the other lies on the same line it goes along, keeping its length.
 *
 * @param isFree whether the other stays as it is
 */
export function moveHandle(path: Path, i: number, side: 'in' | 'out', x: number, y: number, isFree: boolean): Path {
  const own = 4 * i + (side === 'in' ? 0 : 2)
  const other = 4 * i + (side === 'in' ? 2 : 0)
  const handles = [...path.handles]
  const [ax, ay, bx, by] = [handles[own]!, handles[own + 1]!, handles[other]!, handles[other + 1]!]
  const isSmooth =
    (bx !== 0 || by !== 0) && Math.abs(ax * by - ay * bx) < 0.02 * Math.hypot(ax, ay) * Math.hypot(bx, by) && ax * bx + ay * by < 0
  handles[own] = x
  handles[own + 1] = y
  const long = Math.hypot(x, y)
  if (isSmooth && !isFree && long > 0) {
    const keep = Math.hypot(bx, by) / long
    handles[other] = -x * keep
    handles[other + 1] = -y * keep
  }
  return { ...path, handles }
}

/** Moves points; their handles go along. */
export function movePoints(path: Path, moved: ReadonlyMap<number, Vec>): Path {
  if (!path.ids.some((id) => moved.has(id))) return path
  return {
    ...path,
    anchors: path.ids.flatMap((id, i) =>
      moved.has(id) ? [moved.get(id)!.x, moved.get(id)!.y] : [path.anchors[2 * i]!, path.anchors[2 * i + 1]!],
    ),
  }
}

/** The path the other way round: the same outline, ends exchanged. */
export function reversed(path: Path): Path {
  const n = path.ids.length
  const order = Array.from({ length: n }, (_, k) => n - 1 - k)
  const hidden = path.hidden?.flatMap((id) => {
    const next = path.ids[(path.ids.indexOf(id) + 1) % n]
    return next === undefined ? [] : [next]
  })
  return {
    ...path,
    ids: order.map((i) => path.ids[i]!),
    anchors: order.flatMap((i) => [path.anchors[2 * i]!, path.anchors[2 * i + 1]!]),
    handles: order.flatMap((i) => [path.handles[4 * i + 2]!, path.handles[4 * i + 3]!, path.handles[4 * i]!, path.handles[4 * i + 1]!]),
    ...(path.widths && { widths: order.map((i) => path.widths![i]!) }),
    ...(hidden && { hidden }),
  }
}

const isEnd = (path: Path, id: number): boolean => !path.closed && (path.ids[0] === id || path.ids.at(-1) === id)

/**
 * Makes two points one, half way between them: the two ends of a path close it, ends of two paths join them (into the
 * shape of the first). Null where they are no such points.
 */
export function joinPoints(drawing: Drawing, a: number, b: number): Drawing | null {
  const find = (id: number): { shape: Shape; path: Path } | null => {
    for (const shape of drawing.shapes) for (const path of shape.paths) if (path.ids.includes(id)) return { shape, path }
    return null
  }
  const [first, second] = [find(a), find(b)]
  if (!first || !second || a === b) return null
  if (first.path === second.path) {
    const joined = weld(first.path, a, b)
    return joined && changePaths(drawing, (p) => (p === first.path ? joined : p))
  }
  if (!isEnd(first.path, a) || !isEnd(second.path, b)) return null
  const head = first.path.ids.at(-1) === a ? first.path : reversed(first.path)
  const tail = second.path.ids[0] === b ? second.path : reversed(second.path)
  const long = chained(head, tail)
  return changePaths(drawing, (p) => (p === first.path ? long : p === second.path ? null : p))
}

/** Both ends of an open path, or two neighbours of any, made one. */
function weld(path: Path, a: number, b: number): Path | null {
  const n = path.ids.length
  const [i, j] = [path.ids.indexOf(a), path.ids.indexOf(b)]
  const [lo, hi] = [Math.min(i, j), Math.max(i, j)]
  const areEnds = !path.closed && lo === 0 && hi === n - 1
  const areNeighbours = hi - lo === 1 || (path.closed && lo === 0 && hi === n - 1)
  if ((!areEnds && !areNeighbours) || n < 3) return null
  // The one that comes first along the way stays; it takes the way on from the other.
  const [stays, goes] = areEnds || (path.closed && lo === 0 && hi === n - 1) ? [hi, lo] : [lo, hi]
  const anchors = [...path.anchors]
  const handles = [...path.handles]
  for (const axis of [0, 1]) {
    anchors[2 * stays + axis] = (path.anchors[2 * i + axis]! + path.anchors[2 * j + axis]!) / 2
    handles[4 * stays + 2 + axis] = path.handles[4 * goes + 2 + axis]!
  }
  const hidden = path.hidden?.filter((id) => id !== path.ids[stays]).map((id) => (id === path.ids[goes] ? path.ids[stays]! : id))
  return {
    ...path,
    closed: path.closed || areEnds,
    ids: splice(path.ids, goes, 1),
    anchors: splice(anchors, 2 * goes, 2),
    handles: splice(handles, 4 * goes, 4),
    ...(path.widths && { widths: splice(path.widths, goes, 1) }),
    ...(hidden && { hidden }),
  }
}

/** Two open paths as one: the end of the first and the beginning of the second become a point half way. */
function chained(head: Path, tail: Path): Path {
  const n = head.ids.length
  const anchors = [...head.anchors]
  for (const axis of [0, 1]) anchors[2 * (n - 1) + axis] = (head.anchors[2 * (n - 1) + axis]! + tail.anchors[axis]!) / 2
  const handles = [...head.handles.slice(0, 4 * n - 2), tail.handles[2]!, tail.handles[3]!]
  const first = tail.ids[0]!
  const hidden = [...(head.hidden ?? []), ...(tail.hidden ?? []).map((id) => (id === first ? head.ids[n - 1]! : id))]
  const ones = (p: Path): number[] => p.widths ?? p.ids.map(() => 1)
  return {
    closed: false,
    ids: [...head.ids, ...tail.ids.slice(1)],
    anchors: [...anchors, ...tail.anchors.slice(2)],
    handles: [...handles, ...tail.handles.slice(4)],
    ...((head.widths || tail.widths) && { widths: [...ones(head), ...ones(tail).slice(1)] }),
    ...(hidden.length > 0 && { hidden }),
  }
}

/** Hides the stretches that begin at some points, or shows them again where all of them are hidden. */
export function toggleHidden(path: Path, from: ReadonlySet<number>): Path {
  const meant = path.ids.filter((id, i) => from.has(id) && i < segmentCount(path))
  if (meant.length === 0) return path
  const known = new Set(path.hidden ?? [])
  const all = meant.every((id) => known.has(id))
  for (const id of meant)
    if (all) known.delete(id)
    else known.add(id)
  const { hidden: _, ...rest } = path
  return known.size > 0 ? { ...rest, hidden: [...known] } : rest
}

/** Sets the thickness of the line at a point, as a share of its width. */
export function setWidth(path: Path, i: number, share: number): Path {
  const widths = path.widths ? [...path.widths] : path.ids.map(() => 1)
  widths[i] = Math.min(100, Math.max(0, share))
  return plainWidths({ ...path, widths })
}

/** A line that is as thick everywhere as its width says needs no thickness of its own. */
function plainWidths(path: Path): Path {
  if (!path.widths?.every((w) => Math.abs(w - 1) < 1e-3)) return path
  const { widths: _, ...rest } = path
  return rest
}

/** Thin ends: thickness rises from nothing to the whole over the outer points of an open path. */
export function tapered(path: Path): Path {
  if (path.closed) return path
  const n = path.ids.length
  const widths = path.ids.map((_, i) => (i === 0 || i === n - 1 ? 0 : (path.widths?.[i] ?? 1)))
  return { ...path, widths }
}

/** Edge or middle along which points are aligned. */
export type Alignment = 'left' | 'middle' | 'right' | 'top' | 'centre' | 'bottom'

/** Where points come to lie when they are aligned with each other. */
export function alignedPoints(points: ReadonlyMap<number, Vec>, to: Alignment): Map<number, Vec> {
  const axis = to === 'left' || to === 'middle' || to === 'right' ? 'x' : 'y'
  const all = [...points.values()].map((p) => p[axis])
  const [min, max] = [Math.min(...all), Math.max(...all)]
  const at = to === 'left' || to === 'top' ? min : to === 'right' || to === 'bottom' ? max : (min + max) / 2
  return new Map([...points].map(([id, p]) => [id, { ...p, [axis]: at }]))
}

/** Mirrors points of a path about an upright or level line; where all of a path is meant, its handles as well. */
export function flipped(path: Path, meant: ReadonlySet<number>, axis: 'x' | 'y', at: number): Path {
  if (!path.ids.some((id) => meant.has(id))) return path
  const k = axis === 'x' ? 0 : 1
  const anchors = [...path.anchors]
  const handles = [...path.handles]
  path.ids.forEach((id, i) => {
    if (!meant.has(id)) return
    anchors[2 * i + k] = 2 * at - anchors[2 * i + k]!
    handles[4 * i + k] = -handles[4 * i + k]! || 0
    handles[4 * i + 2 + k] = -handles[4 * i + 2 + k]! || 0
  })
  return { ...path, anchors, handles }
}
