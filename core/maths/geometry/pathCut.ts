/** Taking pieces out of paths. A parameter of a path is the index of a segment plus the position in it, 0 to 1. */
import type { Path } from '../../artwork/records'
import type { Vec } from '../../kernel/numbers'

/** A cubic stretch: start, two handles, end, as x,y pairs in px. */
export type Cubic = readonly [number, number, number, number, number, number, number, number]

/** Absolute control points of segment i. */
export function segmentAt(path: Path, i: number): Cubic {
  const { anchors: a, handles: h, ids } = path
  const j = (i + 1) % ids.length
  const [x0, y0, x3, y3] = [a[2 * i]!, a[2 * i + 1]!, a[2 * j]!, a[2 * j + 1]!]
  return [x0, y0, x0 + h[4 * i + 2]!, y0 + h[4 * i + 3]!, x3 + h[4 * j]!, y3 + h[4 * j + 1]!, x3, y3]
}

/** Number of stretches of a path; a closed one has as many as points. */
export const segmentCount = (path: Path): number => (path.closed ? path.ids.length : path.ids.length - 1)

/** The spot of a cubic at a position. */
export function cubicAt(c: readonly number[], t: number): Vec {
  const s = 1 - t
  const [a, b, d, e] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t]
  return { x: a * c[0]! + b * c[2]! + d * c[4]! + e * c[6]!, y: a * c[1]! + b * c[3]! + d * c[5]! + e * c[7]! }
}

/** Part of a cubic between two positions, by blossoming. */
export function cubicBetween(c: Cubic, from: number, to: number): Cubic {
  const blossom = (axis: 0 | 1, r: number, s: number, t: number): number => {
    const mix = (p: number, q: number, w: number): number => p + w * (q - p)
    const [p0, p1, p2, p3] = [c[axis], c[axis + 2]!, c[axis + 4]!, c[axis + 6]!]
    const [q0, q1, q2] = [mix(p0, p1, r), mix(p1, p2, r), mix(p2, p3, r)]
    return mix(mix(q0, q1, s), mix(q1, q2, s), t)
  }
  const at = (r: number, s: number, t: number): [number, number] => [blossom(0, r, s, t), blossom(1, r, s, t)]
  return [...at(from, from, from), ...at(from, from, to), ...at(from, to, to), ...at(to, to, to)] as unknown as Cubic
}

/**
 * The open piece of a path between two parameters, with thickness and hidden stretches as they are there. On a closed
 * path `to` may lie beyond the last segment, or `from` below 0: the piece then runs over the beginning.
 *
 * @param idAt gives the ids of anchors that are new, by where they are
 */
export function subPath(path: Path, from: number, to: number, idAt: (x: number, y: number) => number): Path {
  const count = segmentCount(path)
  const wrap = (k: number): number => ((k % count) + count) % count
  const anchors: number[] = []
  const handles: number[] = []
  const ids: number[] = []
  const widths: number[] = []
  const hidden: number[] = []
  const put = (x: number, y: number, id: number, width: number): void => {
    anchors.push(x, y)
    handles.push(0, 0, 0, 0)
    ids.push(id)
    widths.push(width)
  }
  const widthAt = (parameter: number): number => {
    if (!path.widths) return 1
    const k = Math.floor(parameter)
    const [a, b] = [path.widths[wrap(k)]!, path.widths[(wrap(k) + 1) % path.ids.length]!]
    return a + (parameter - k) * (b - a)
  }
  for (let u = from; u < to - 1e-9;) {
    const k = Math.floor(u + 1e-9)
    const end = Math.min(k + 1, to)
    const [x0, y0, x1, y1, x2, y2, x3, y3] = cubicBetween(segmentAt(path, wrap(k)), Math.max(0, u - k), end - k)
    if (ids.length === 0) put(x0, y0, u - k < 1e-9 ? path.ids[wrap(k)]! : idAt(x0, y0), widthAt(u))
    const last = ids.length - 1
    if (path.hidden?.includes(path.ids[wrap(k)]!)) hidden.push(ids[last]!)
    handles[4 * last + 2] = x1 - x0
    handles[4 * last + 3] = y1 - y0
    put(x3, y3, end === k + 1 ? path.ids[(wrap(k) + 1) % path.ids.length]! : idAt(x3, y3), widthAt(end))
    handles[4 * (last + 1)] = x2 - x3
    handles[4 * (last + 1) + 1] = y2 - y3
    u = end
  }
  const unique = new Set<number>()
  // A piece that goes all the way round meets its own beginning; the end is another anchor then.
  const own = ids.map((id, i) => (unique.has(id) ? idAt(anchors[2 * i]! + 1e3, anchors[2 * i + 1]!) : (unique.add(id), id)))
  return { closed: false, ids: own, anchors, handles, ...(path.widths && { widths }), ...(hidden.length > 0 && { hidden }) }
}

/** Length of a path, chords over sixteen steps of each segment. */
export function pathLength(path: Path): number {
  let sum = 0
  for (let i = 0; i < segmentCount(path); i++) {
    const c = segmentAt(path, i)
    let [px, py] = [c[0], c[1]]
    for (let k = 1; k <= 16; k++) {
      const [x, y] = cubicBetween(c, k / 16, k / 16)
      sum += Math.hypot(x - px, y - py)
      ;[px, py] = [x, y]
    }
  }
  return sum
}
