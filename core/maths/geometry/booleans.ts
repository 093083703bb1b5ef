/**
 * Boolean operations on cubic paths, on the curves themselves.
 *
 * The one place that knows the package which computes them; everything else sees paths. Areas are given by closed
 * paths with a fill rule, and come back as closed paths that do not cross themselves, good for either rule.
 */
import engine from 'paper/dist/paper-core.js'
import type { Path } from '../../artwork/records'

/** An area: closed paths and the rule by which they are filled. */
export interface Area {
  readonly paths: readonly Path[]
  readonly rule: 'nonzero' | 'evenodd'
}

/** What is made of two areas. */
export type AreaOperation = 'unite' | 'intersect' | 'subtract'

type PaperItem = paper.CompoundPath | paper.Path

const kit = engine as unknown as paper.PaperScope
let isReady = false

/** The package wants a project for its items; ours are never put into it, so that nothing stays behind. */
function prepare(): void {
  if (!isReady) kit.setup(new kit.Size(1, 1))
  isReady = true
}

const SAME = 1e-6

function toPaper(path: Path, closed: boolean): paper.Path {
  const segments = path.ids.map((_, i) => {
    const [hx, hy, gx, gy] = path.handles.slice(4 * i, 4 * i + 4) as [number, number, number, number]
    return new kit.Segment(new kit.Point(path.anchors[2 * i]!, path.anchors[2 * i + 1]!), new kit.Point(hx, hy), new kit.Point(gx, gy))
  })
  return new kit.Path({ segments, closed, insert: false })
}

/** Turns outer paths one way and holes the other, so that signed areas add up. */
function oriented(item: PaperItem): PaperItem {
  if ('reorient' in item) item.reorient(false, true)
  return item
}

function areaItem({ paths, rule }: Area): PaperItem {
  prepare()
  const children = paths.filter((p) => p.ids.length > 1).map((p) => toPaper(p, true))
  const item = new kit.CompoundPath({ children, fillRule: rule, insert: false })
  // Crossings with itself are resolved by its own rule before it meets another area.
  return oriented(item.unite(undefined as never, { insert: false }) as PaperItem)
}

/** Gives anchors of a result the ids of the anchors from which they came; new ones get numbers that nothing has. */
export class AnchorIds {
  private readonly known = new Map<string, number>()
  private next: number

  constructor(paths: readonly Path[], first = 0) {
    this.next = Math.max(first, 1 + Math.max(-1, ...paths.flatMap((p) => p.ids)))
    for (const { ids, anchors } of paths)
      ids.forEach((id, i) => {
        const key = this.keyOf(anchors[2 * i]!, anchors[2 * i + 1]!)
        if (!this.known.has(key)) this.known.set(key, id)
      })
  }

  /** Each id is given once. */
  take(x: number, y: number): number {
    const key = this.keyOf(x, y)
    const known = this.known.get(key)
    if (known === undefined) return this.fresh()
    this.known.delete(key)
    return known
  }

  /** A number that nothing has. */
  fresh(): number {
    return this.next++
  }

  private keyOf(x: number, y: number): string {
    return `${Math.round(x / SAME)} ${Math.round(y / SAME)}`
  }
}

function fromPaper(item: PaperItem | null, ids: AnchorIds): Path[] {
  if (!item) return []
  const paths = 'segments' in item && item.segments ? [item as paper.Path] : ((item.children ?? []) as paper.Path[])
  return paths
    .filter((p) => p.segments.length > 1)
    .map((p) => ({
      closed: p.closed,
      ids: p.segments.map((s) => ids.take(s.point.x, s.point.y)),
      anchors: p.segments.flatMap((s) => [s.point.x, s.point.y]),
      handles: p.segments.flatMap((s) => [s.handleIn.x, s.handleIn.y, s.handleOut.x, s.handleOut.y]),
    }))
}

/** Shifts by which an operation is tried again when its first result cannot be right, px. */
const NUDGES = [0, 1e-4, -2.3e-4, 7.1e-4, 2.9e-3]
/** Largest share by which the area of a result may miss what sets allow. */
const TOLERANCE = 1e-4

/**
 * Combines two areas.
 *
 * The areas of intersection and difference must add up to the first area; where they do not (curves that touch or
 * run along each other over a stretch), the second area is shifted by less than can be seen and tried again.
 *
 * @returns closed paths that do not cross; anchors that both have in common with `a` keep their ids
 */
export function combine(a: Area, b: Area, operation: AreaOperation, ids = new AnchorIds(a.paths)): Path[] {
  const first = areaItem(a)
  const size = Math.abs(first.area)
  let best: { item: PaperItem; off: number } | null = null
  for (const nudge of NUDGES) {
    const second = areaItem(b)
    if (nudge !== 0) second.translate(new kit.Point(nudge, -0.7 * nudge))
    const both = oriented(first.intersect(second, { insert: false }) as PaperItem)
    const only = oriented(first.subtract(second, { insert: false }) as PaperItem)
    const item =
      operation === 'intersect' ? both : operation === 'subtract' ? only : oriented(first.unite(second, { insert: false }) as PaperItem)
    const wanted = operation === 'unite' ? Math.abs(second.area) + Math.abs(only.area) : size
    const found = operation === 'unite' ? Math.abs(item.area) : Math.abs(both.area) + Math.abs(only.area)
    const off = Math.abs(found - wanted) / Math.max(size, 1e-9)
    if (!best || off < best.off) best = { item, off }
    if (off <= TOLERANCE) break
  }
  return fromPaper(best!.item, ids)
}

/** An area as paths that do not cross themselves. */
export const untangled = (area: Area, ids = new AnchorIds(area.paths)): Path[] => fromPaper(areaItem(area), ids)

/** Area in px²; each spot counts once, whatever the winding. */
export const areaOf = (area: Area): number => Math.abs(areaItem(area).area)

/** Whether a spot lies in an area. */
export function areaTest(area: Area): (x: number, y: number) => boolean {
  const item = areaItem(area)
  return (x, y) => item.contains(new kit.Point(x, y))
}

/** A stretch of a path between two of its parameters: segment index plus position in it. */
export interface Stretch {
  readonly from: number
  readonly to: number
  readonly inside: boolean
}

/**
 * Where a path, open or closed, runs inside an area: stretches in order along the path. On a closed path the last
 * stretch may run over its beginning, its end then lies beyond the number of segments.
 */
export function stretchesOf(path: Path, area: Area): Stretch[] {
  const item = areaItem(area)
  const line = toPaper(path, path.closed)
  const count = line.curves.length
  if (count === 0) return []
  const cuts = [...new Set(line.getIntersections(item).map((c) => Math.round((c.curve.index + c.time) * 1e9) / 1e9))].sort((p, q) => p - q)
  const at = (u: number): paper.Point => {
    const w = ((u % count) + count) % count
    const k = Math.min(count - 1, Math.floor(w))
    return line.curves[k]!.getPointAtTime(w - k)
  }
  const ends = path.closed ? cuts : [0, ...cuts, count]
  if (path.closed && cuts.length === 0) return [{ from: 0, to: count, inside: item.contains(at(0.5)) }]
  const out: Stretch[] = []
  const put = (from: number, to: number): void => {
    if (to - from < 1e-7) return
    // One spot may lie on the border itself; three are asked.
    const votes = [0.31, 0.5, 0.77].filter((t) => item.contains(at(from + t * (to - from)))).length
    const inside = votes >= 2
    const last = out.at(-1)
    if (last && last.inside === inside && Math.abs(last.to - from) < 1e-7) out[out.length - 1] = { ...last, to }
    else out.push({ from, to, inside })
  }
  for (let i = 0; i + 1 < ends.length; i++) put(ends[i]!, ends[i + 1]!)
  if (path.closed) put(ends.at(-1)!, ends[0]! + count)
  const [head, tail] = [out[0], out.at(-1)]
  if (path.closed && head && tail && head !== tail && head.inside === tail.inside) {
    out.pop()
    out[0] = { from: tail.from - count, to: head.to, inside: head.inside }
  }
  return out
}

/** Parameters at which a path meets others or itself, in order; a touch counts. */
export function crossingsOf(path: Path, others: readonly Path[]): number[] {
  prepare()
  const line = toPaper(path, path.closed)
  const met = [...others.map((o) => toPaper(o, o.closed)), line]
    .flatMap((other) => line.getIntersections(other))
    .map((c) => Math.round((c.curve.index + c.time) * 1e9) / 1e9)
  return [...new Set(met)].sort((a, b) => a - b)
}
