/** Changes that move points of a drawing by where they lie on the canvas at rest. */
import type { PartId } from '../kernel/ids'
import type { ChangeOf } from '../responses/records'
import type { Drawing, Path } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import type { Vec } from '../kernel/numbers'
import { restMatrix } from '../parts/tree'
import { apply, invert } from '../maths/geometry/affine'

/** The widest closed path of a drawing, by which it is known; null where it has none. */
export function widestOutline({ shapes }: Drawing): Path | null {
  const wide = (p: Path): number => {
    const xs = p.anchors.filter((_, i) => i % 2 === 0)
    return Math.max(...xs) - Math.min(...xs)
  }
  const closed = shapes.flatMap((s) => s.paths).filter((p) => p.closed && p.ids.length > 1)
  return closed.reduce<Path | null>((best, p) => (best && wide(best) >= wide(p) ? best : p), null)
}

/** Which stretches of a closed path are its lower edge: those of the lower one of its two runs between its corners. */
export function lowerStretches(path: Path): boolean[] {
  const n = path.ids.length
  const x = (i: number): number => path.anchors[2 * (i % n)]!
  let [left, right] = [0, 0]
  for (let i = 0; i < n; i++) {
    if (x(i) < x(left)) left = i
    if (x(i) > x(right)) right = i
  }
  const run = (from: number, to: number): number[] => Array.from({ length: (to - from + n) % n }, (_, k) => (from + k) % n)
  const [there, back] = [run(left, right), run(right, left)]
  const depth = (stretches: readonly number[]): number =>
    stretches.reduce((sum, i) => sum + middleY(path, i), 0) / Math.max(1, stretches.length)
  // A shape that is closed to a line has both runs in one place: then the way back is the lower one.
  const lower = new Set(depth(there) > depth(back) + 1e-6 ? there : back)
  return Array.from({ length: n }, (_, i) => lower.has(i))
}

/** The y half way along a stretch of a path. */
export function middleY({ anchors, handles, ids }: Path, i: number): number {
  const j = (i + 1) % ids.length
  const [a, d] = [anchors[2 * i + 1]!, anchors[2 * j + 1]!]
  return (a + 3 * (a + handles[4 * i + 3]!) + 3 * (d + handles[4 * j + 1]!) + d) / 8
}

/** How far a spot of a stretch moves, canvas px; an anchor belongs to the stretches on both of its sides. */
export type SpotMove = (spot: Vec, path: Path, stretch: number) => readonly [number, number]

/**
 * A change that moves anchors and handles each by where they are. An anchor between two stretches that move differently takes
 * the mean of both, its handles their own.
 */
export function movedPoints(puppet: Puppet, part: PartId, drawing: Drawing, move: SpotMove): ChangeOf<'points'> {
  const map = restMatrix(puppet, part)
  const back = invert(map) ?? map
  const ids: number[] = []
  const by: number[] = []
  for (const path of drawing.shapes.flatMap((s) => s.paths)) {
    const n = path.ids.length
    const shift = (x: number, y: number, stretch: number): [number, number] => {
      const [dx, dy] = move(apply(map, { x, y }), path, stretch)
      return [back[0] * dx + back[2] * dy, back[1] * dx + back[3] * dy]
    }
    path.ids.forEach((id, i) => {
      const [before, after] = [(i + n - 1) % n, i]
      const [x, y] = [path.anchors[2 * i]!, path.anchors[2 * i + 1]!]
      const [a, b] = [shift(x, y, before), shift(x, y, after)]
      const own = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] as const
      const side = (k: 0 | 2, stretch: number): number[] => {
        const [hx, hy] = [path.handles[4 * i + k]!, path.handles[4 * i + k + 1]!]
        const to = shift(x + hx, y + hy, stretch)
        return hx === 0 && hy === 0 ? [0, 0] : [to[0] - own[0], to[1] - own[1]]
      }
      const all = [...own, ...side(0, before), ...side(2, after)]
      if (all.every((v) => Math.abs(v) < 1e-9)) return
      ids.push(id)
      by.push(...all)
    })
  }
  return { kind: 'points', muted: false, scale: 1, part, drawing: drawing.id, ids, by }
}
