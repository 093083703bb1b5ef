/**
 * Lines with a thickness of their own along the way, and stretches of outlines that are hidden, as plain shapes.
 *
 * What is painted knows lines of one width only. A line that swells becomes one filled outline with round joins and
 * ends; an outline with hidden stretches becomes open lines of what is left.
 */
import type { Drawing, Path, Shape } from '../records'
import { polygonPath } from '../../maths/geometry/path'
import { cubicBetween, segmentAt, segmentCount, subPath } from '../../maths/geometry/pathCut'

const made = new WeakMap<Drawing, Drawing>()

/** The drawing as it is painted; the same object where nothing of this kind is in it. */
export function drawnForm(drawing: Drawing): Drawing {
  if (!drawing.shapes.some(isSpecial)) return drawing
  const known = made.get(drawing)
  if (known) return known
  const form = { ...drawing, shapes: drawing.shapes.flatMap((shape) => (isSpecial(shape) ? plainShapes(shape) : [shape])) }
  made.set(drawing, form)
  return form
}

const isSpecial = (shape: Shape): boolean =>
  shape.line !== null && shape.paths.some((p) => p.widths !== undefined || (p.hidden?.length ?? 0) > 0)

function plainShapes(shape: Shape): Shape[] {
  const line = shape.line!
  const shown = shape.paths.flatMap(shownStretches)
  const even = shown.filter((p) => !p.widths)
  const swelling = shown.filter((p) => p.widths)
  const lines: Shape[] = []
  if (even.length > 0) lines.push({ ...shape, ink: null, paths: even })
  if (swelling.length > 0) {
    const ink = { paint: line.paint, alpha: line.alpha, rule: 'nonzero' as const }
    lines.push({ ...shape, line: null, ink, paths: swelling.flatMap((p) => thickened(p, line.width)) })
  }
  if (!shape.ink) return lines
  const inked: Shape = { ...shape, line: null }
  return shape.lineFirst ? [...lines, inked] : [inked, ...lines]
}

/** What is left of a path without its hidden stretches. */
function shownStretches(path: Path): Path[] {
  const hidden = new Set(path.hidden ?? [])
  if (!path.ids.some((id) => hidden.has(id))) return [path]
  const count = segmentCount(path)
  const isHidden = (i: number): boolean => hidden.has(path.ids[((i % count) + count) % count]!)
  // On a closed path the first stretch begins behind a hidden one.
  const start = path.closed ? path.ids.findIndex((id) => hidden.has(id)) + 1 : 0
  const out: Path[] = []
  for (let i = start; i < start + count;) {
    if (isHidden(i)) {
      i++
      continue
    }
    let end = i
    while (end < start + count && !isHidden(end)) end++
    const { hidden: _, ...piece } = subPath(path, i, end, () => 0)
    out.push(piece)
    i = end
  }
  return out
}

/** Steps of a segment, and of a half turn of a round join. */
const STEPS = 12
const ARC = 10

interface Spot {
  readonly x: number
  readonly y: number
  /** Direction of the way, radians. */
  readonly way: number
  /** Half the thickness. */
  readonly half: number
}

/** One outline around a line of changing thickness: along its left side, round its end, and back along its right side. */
function thickened(path: Path, width: number): Path[] {
  const spots = spotsOf(path, width / 2)
  if (spots.length < 2) return []
  const points: number[] = []
  const side = (s: Spot, sign: 1 | -1): void =>
    void points.push(s.x - sign * s.half * Math.sin(s.way), s.y + sign * s.half * Math.cos(s.way))
  const arc = (s: Spot, from: number, by: number): void => {
    for (let k = 1; k < ARC; k++)
      points.push(s.x + s.half * Math.cos(from + (by * k) / ARC), s.y + s.half * Math.sin(from + (by * k) / ARC))
  }
  const along = (list: readonly Spot[], sign: 1 | -1): void =>
    list.forEach((s, i) => {
      side(s, sign)
      const next = list[i + 1]
      if (!next) return
      // Where the way turns, the outer side goes round.
      const turn = Math.atan2(Math.sin(next.way - s.way), Math.cos(next.way - s.way))
      if (s.x === next.x && s.y === next.y && turn < -0.2) arc(s, s.way + (sign * Math.PI) / 2, turn)
    })
  along(spots, 1)
  if (path.closed) {
    const ring = points.splice(0)
    along([...spots].reverse(), -1)
    return [polygonPath(ring), polygonPath(points)]
  }
  arc(spots.at(-1)!, spots.at(-1)!.way + Math.PI / 2, -Math.PI)
  along([...spots].reverse(), -1)
  arc(spots[0]!, spots[0]!.way - Math.PI / 2, -Math.PI)
  return [polygonPath(points)]
}

function spotsOf(path: Path, half: number): Spot[] {
  const out: Spot[] = []
  const count = segmentCount(path)
  const widths = path.widths!
  for (let i = 0; i < count; i++) {
    const c = segmentAt(path, i)
    const [from, to] = [widths[i]!, widths[(i + 1) % widths.length]!]
    for (let k = 0; k <= STEPS; k++) {
      const t = k / STEPS
      const [x, y] = cubicBetween(c, t, t)
      const [ax, ay] = cubicBetween(c, Math.max(0, t - 0.01), Math.max(0, t - 0.01))
      const [bx, by] = cubicBetween(c, Math.min(1, t + 0.01), Math.min(1, t + 0.01))
      out.push({ x, y, way: Math.atan2(by - ay, bx - ax), half: half * (from + t * (to - from)) })
    }
  }
  return out
}
