/**
 * Points of a drawing that were moved in a pose, as a recording: what each is moved by in the part's own space, so that the pose
 * takes it to where it was seen. Weights of bones stay those of the drawing at rest, so that this is told by one small
 * matrix for each point.
 */
import type { PartId } from '../kernel/ids'
import type { ChangeOf } from '../responses/records'
import type { Drawing } from '../artwork/records'
import type { Vec } from '../kernel/numbers'
import { FoldedError, isSamePoint, pointsOf, type DrawnPoint } from '../touch/posedPaths'
import type { LaidPoint, LaidSide } from '../placement/layout'
import { makeReshape, turnAt } from '../placement/reshape'
import { FLAT, posedMap, stepBack, type PosedMap } from '../puppet/posedMap'
import { shownDrawing } from './shown'
import { drawingOfPart } from '../puppet/rig'
import type { Frame } from '../puppet/frame'
import type { Reshape } from '../placement/drawing'

/** Moves smaller than this, px, are none. */
const NOTHING = 1e-9

/**
 * The recording after a drawing was edited in a pose; null where nothing is moved.
 *
 * @param frame in which it was edited, with what is recorded so far
 * @param before the drawing at rest, and `after` what the edit made of it; both have the same points
 * @param old what is recorded so far. Throws FoldedError where the pose flattens the drawing
 */
export function movedPoints(
  frame: Frame,
  part: PartId,
  before: Drawing,
  after: Drawing,
  old: ChangeOf<'points'> | null,
): ChangeOf<'points'> | null {
  const d = drawingOfPart(frame.rig, part)
  const drawn = frame.rig.drawings[d]
  if (!drawn) return old
  const reshape = drawn.reshape ?? makeReshape(before, drawn.tessellation, frame.evaluation.shapes)
  const moves = new Map(old?.ids.map((id, k) => [id, old.by.slice(6 * k, 6 * k + 6)]))
  const widths = widthSteps(before, after, old)
  if (reshape.layout) new Mover({ frame, part, d, reshape, before, after, moves }).run()
  else for (const [id, by] of plainSteps(before, after)) add(moves, id, by)
  const ids = [...new Set([...moves.keys(), ...widths.keys()])].filter(
    (id) => moves.get(id)?.some((v) => Math.abs(v) > NOTHING) || (widths.get(id) ?? 0) !== 0,
  )
  if (ids.length === 0) return null
  return {
    ...{ kind: 'points', muted: old?.muted ?? false, scale: old?.scale ?? 1, part, drawing: before.id, ids },
    by: ids.flatMap((id) => moves.get(id) ?? [0, 0, 0, 0, 0, 0]),
    ...(widths.size > 0 && { widths: ids.map((id) => widths.get(id) ?? 0) }),
  }
}

function add(moves: Map<number, number[]>, id: number, by: readonly number[]): void {
  const had = moves.get(id) ?? [0, 0, 0, 0, 0, 0]
  moves.set(
    id,
    had.map((v, k) => v + by[k]!),
  )
}

/** Steps of points whose form as it is painted is not theirs: as they are at rest. */
function plainSteps(before: Drawing, after: Drawing): [number, number[]][] {
  const now = pointsOf(after)
  return [...pointsOf(before)].map(([id, p]) => {
    const q = now.get(id)!
    return [id, [q.x - p.x, q.y - p.y, ...q.handles.map((h, k) => h - p.handles[k]!)]]
  })
}

/** What is added to the thickness at each point; that of the document stays as it is. */
function widthSteps(before: Drawing, after: Drawing, old: ChangeOf<'points'> | null): Map<number, number> {
  const out = new Map<number, number>(old?.widths ? old.ids.map((id, k) => [id, old.widths![k]!]) : [])
  const widthsOf = (drawing: Drawing): Map<number, number> =>
    new Map(drawing.shapes.flatMap((s) => s.paths.flatMap((p) => p.ids.map((id, k) => [id, p.widths?.[k] ?? 1] as const))))
  const [was, is] = [widthsOf(before), widthsOf(after)]
  for (const [id, width] of is) if (width !== was.get(id)) out.set(id, width - was.get(id)!)
  return out
}

interface Moving {
  readonly frame: Frame
  readonly part: PartId
  readonly d: number
  readonly reshape: Reshape
  readonly before: Drawing
  readonly after: Drawing
  readonly moves: Map<number, number[]>
}

/** Takes every moved anchor and handle back through the pose. */
class Mover {
  private readonly map: PosedMap
  private readonly was: ReadonlyMap<number, DrawnPoint>
  private readonly is: ReadonlyMap<number, DrawnPoint>
  private readonly seen: ReadonlyMap<number, DrawnPoint>
  private readonly laid: readonly LaidPoint[]
  private readonly byAnchor: ReadonlyMap<number, number>

  constructor(private readonly own: Moving) {
    const { frame, part, before, after, reshape } = own
    this.map = posedMap(frame, part)
    this.was = pointsOf(before)
    this.is = pointsOf(after)
    this.seen = pointsOf(shownDrawing(frame, part, before, this.map))
    this.laid = reshape.points
    this.byAnchor = new Map(reshape.points.map((p) => [p.anchor, p.id]))
  }

  run(): void {
    const isMoved = (id: number): boolean => !isSamePoint(this.was.get(id)!, this.is.get(id)!)
    // A straight line that becomes a curve at one end is one at the other, too.
    const isBeside = (side: LaidSide | null): boolean => side?.straight === true && isMoved(this.byAnchor.get(side.other)!)
    const touched = this.laid.filter((point) => isMoved(point.id) || isBeside(point.in) || isBeside(point.out))
    const steps = touched.map((point): [LaidPoint, number[]] => [point, this.stepOf(point)])
    for (const [point, step] of steps) add(this.own.moves, point.id, step)
  }

  /** Where a point is wanted on the canvas: as it was seen, moved as the pose moves what was edited at rest. */
  private wantedAnchor(id: number): Vec {
    const [a, b] = [this.map.toCanvas(this.was.get(id)!), this.map.toCanvas(this.is.get(id)!)]
    const seen = this.seen.get(id)!
    return { x: seen.x + b.x - a.x, y: seen.y + b.y - a.y }
  }

  private stepOf(point: LaidPoint): number[] {
    const { id } = point
    const back = this.backAt(point)
    const [seen, wanted] = [this.seen.get(id)!, this.wantedAnchor(id)]
    const anchor = back(wanted.x - seen.x, wanted.y - seen.y)
    const into = point.in ? this.handleStep(id, point.in, 0, back) : ([0, 0] as const)
    const out = point.out ? this.handleStep(id, point.out, 2, back) : ([0, 0] as const)
    return [...anchor, ...into, ...out]
  }

  /** Takes a step on the canvas to the part's own space, at a point. */
  private backAt({ anchor }: LaidPoint): (x: number, y: number) => readonly [number, number] {
    const turn = turnAt(this.own.frame, this.own.frame.rig.drawings[this.own.d]!, this.own.d, this.own.reshape, anchor)
    return (x, y) => {
      const step = stepBack(turn, x, y, FLAT)
      if (!step) throw new FoldedError()
      return step
    }
  }

  private handleStep(
    id: number,
    side: LaidSide,
    k: 0 | 2,
    back: (x: number, y: number) => readonly [number, number],
  ): readonly [number, number] {
    const [was, is, seen] = [this.was.get(id)!, this.is.get(id)!, this.seen.get(id)!]
    const [before, after] = [this.handleOnCanvas(was, k), this.handleOnCanvas(is, k)]
    const step = { x: after.x - before.x, y: after.y - before.y }
    const wasStraight = side.straight && seen.handles[k] === 0 && seen.handles[k + 1] === 0
    if (!wasStraight) return back(step.x, step.y)
    // A straight line has handles at its thirds, which go along with its ends: as long as it stays straight, nothing is recorded.
    const other = this.byAnchor.get(side.other)!
    const isCurved = [this.is.get(id)!.handles, this.is.get(other)!.handles].some((h, n) => {
      const at = n === 0 ? k : 2 - k
      return h[at] !== 0 || h[at + 1] !== 0
    })
    if (!isCurved) return [0, 0]
    const [from, to] = [this.wantedAnchor(id), this.wantedAnchor(other)]
    return back(step.x - (to.x - from.x) / 3, step.y - (to.y - from.y) / 3)
  }

  private handleOnCanvas(point: DrawnPoint, k: 0 | 2): Vec {
    const [x, y] = [point.handles[k]!, point.handles[k + 1]!]
    if (x === 0 && y === 0) return { x: 0, y: 0 }
    const [a, b, c, d] = this.map.derivative(point)
    return { x: a * x + c * y, y: b * x + d * y }
  }
}
