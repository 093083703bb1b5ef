/**
 * What is wrong with a mouth in an expression, told from its outline: corners that were drawn smooth, lips beside the face, a mouth that
 * should be closed and is not, teeth that leave the lip they hang on, and lines that leave their colour.
 */
import type { Path } from '../artwork/records'
import type { PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'
import { drawingOf } from '../parts/tree'
import { builtMouth } from '../face/mouth/find'
import { linesOnLips } from '../face/mouth/lipLine'
import { movableDrawing } from '../face/mouth/moves'
import { mouthOutline, type MouthOutline } from '../face/mouth/outline'
import { groundPart } from '../face/mouth/room'
import { widestOutline } from '../face/outlineMoves'
import { flatten } from '../maths/geometry/path'
import { segmentAt, segmentCount } from '../maths/geometry/pathCut'
import { areaInside, distanceToPolyline, isWithin } from '../maths/geometry/polyline'
import { posedMap } from '../puppet/posedMap'
import { shownDrawing } from '../recording/shown'
import type { Frame } from '../puppet/frame'

export type MouthFault =
  | { readonly kind: 'kink'; readonly part: PartId }
  | { readonly kind: 'leaves-face'; readonly part: PartId; readonly face: PartId }
  | { readonly kind: 'stays-open'; readonly part: PartId }
  | { readonly kind: 'teeth-apart'; readonly part: PartId }
  | { readonly kind: 'line-apart'; readonly part: PartId; readonly from: PartId }

/** Degrees by which an outline may turn more than at rest where it is no corner. */
const KINK = 30
/** Share of a mouth's points beside the face, mean gap of a closed mouth, and distance of a line from its colour, in widths of the mouth. */
const BESIDE = 0.02
const CLOSED = 0.03
const APART = 0.03
/** How wide open teeth are looked at, in widths, and the share of the opening that they may leave free above them. */
const OPEN = 0.2
const FREE = 0.15
/** Tolerance of flattening, px. */
const FINE = 0.3

/** Looks at the mouth of a puppet in frames of it; null where it has none, or a beak, whose halves are no lips. */
export function mouthLooker(puppet: Puppet, rest: Frame): ((frame: Frame, isClosed: boolean) => MouthFault[]) | null {
  const mouth = builtMouth(puppet)
  const drawing = mouth && !mouth.isBeak ? movableDrawing(puppet, mouth.lips) : null
  if (!mouth || !drawing || !widestOutline(drawing)) return null
  const looker = new MouthLooker(puppet, mouth.lips, rest)
  return (frame, isClosed) => looker.faultsIn(frame, isClosed)
}

class MouthLooker {
  private readonly outline: MouthOutline
  private readonly lines: readonly PartId[]
  private readonly teeth: readonly { readonly part: PartId; readonly gap: number }[]
  private readonly face: PartId | null
  private readonly turns: readonly number[]

  constructor(
    private readonly puppet: Puppet,
    private readonly lips: PartId,
    private readonly rest: Frame,
  ) {
    this.outline = mouthOutline(puppet, lips)
    this.lines = linesOnLips(puppet, this.outline, lips)
    this.face = groundPart(puppet, this.outline, lips, null)
    this.turns = turnsOf(this.mainIn(rest))
    const [upper, lower] = depthsOf([flatten(this.mainIn(rest), FINE)], this.outline)
    this.teeth = Object.values(puppet.parts).flatMap((part) => {
      if (!part.masks.some((m) => m.shape === lips && m.keep === 'inside') || !movableDrawing(puppet, part.id)) return []
      const [top, bottom] = depthsOf(
        this.pathsIn(rest, part.id).map((p) => flatten(p, FINE)),
        this.outline,
      )
      // What reaches further beyond the lower lip than beyond the upper one, as a tongue, does not hang.
      const hangs = upper - top > bottom - lower && top - upper < 0.25 * (bottom - top)
      return hangs ? [{ part: part.id, gap: Math.max(0, top - upper) }] : []
    })
  }

  faultsIn(frame: Frame, isClosed: boolean): MouthFault[] {
    const main = this.mainIn(frame)
    const line = flatten(main, FINE)
    return [
      ...this.kinks(main),
      ...this.besideFace(frame, line),
      ...(isClosed ? this.gaps(line) : []),
      ...this.apart(frame, line),
      ...this.hanging(frame, line),
    ]
  }

  private pathsIn(frame: Frame, part: PartId): Path[] {
    const drawing = sure(drawingOf(this.puppet, partOf(this.puppet, part)))
    return shownDrawing(frame, part, drawing, posedMap(frame, part)).shapes.flatMap((s) => s.paths)
  }

  /** The outline of the lips as it is shown. */
  private mainIn(frame: Frame): Path {
    const main = sure(widestOutline(sure(drawingOf(this.puppet, partOf(this.puppet, this.lips)))))
    return sure(this.pathsIn(frame, this.lips).find((p) => p.ids[0] === main.ids[0]))
  }

  private kinks(main: Path): MouthFault[] {
    const xs = main.ids.map((_, k) => main.anchors[2 * k]!)
    const ends = [xs.indexOf(Math.min(...xs)), xs.indexOf(Math.max(...xs))]
    const isKinked = turnsOf(main).some((turn, k) => !ends.includes(k) && turn - this.turns[k]! > KINK)
    return isKinked ? [{ kind: 'kink', part: this.lips }] : []
  }

  private besideFace(frame: Frame, line: readonly number[]): MouthFault[] {
    if (this.face === null) return []
    const ground = this.pathsIn(frame, this.face).filter((p) => p.closed).map((p) => flatten(p, FINE)) // prettier-ignore
    let out = 0
    for (let i = 0; i < line.length; i += 2) if (!isWithin(ground, line[i]!, line[i + 1]!, 'nonzero')) out += 2
    return out > BESIDE * line.length ? [{ kind: 'leaves-face', part: this.lips, face: this.face }] : []
  }

  private gaps(line: readonly number[]): MouthFault[] {
    const width = 2 * this.outline.half
    return areaInside(line) / width > CLOSED * width ? [{ kind: 'stays-open', part: this.lips }] : []
  }

  private apart(frame: Frame, line: readonly number[]): MouthFault[] {
    const reach = APART * 2 * this.outline.half
    const was = flatten(this.mainIn(this.rest), FINE)
    return this.lines.flatMap((part): MouthFault[] => {
      const now = this.pathsIn(frame, part)
      const far = this.pathsIn(this.rest, part).some((path, n) =>
        path.ids.some((_, k) => {
          const at = (p: Path): readonly [number, number] => [p.anchors[2 * k]!, p.anchors[2 * k + 1]!]
          return distanceToPolyline(was, true, ...at(path)) < 1 && distanceToPolyline(line, true, ...at(now[n]!)) > reach
        }),
      )
      return far ? [{ kind: 'line-apart', part, from: this.lips }] : []
    })
  }

  private hanging(frame: Frame, line: readonly number[]): MouthFault[] {
    const [top, bottom] = depthsOf([line], this.outline)
    const open = bottom - top
    if (open < OPEN * 2 * this.outline.half) return []
    return this.teeth.flatMap(({ part, gap }): MouthFault[] => {
      const [own] = depthsOf(this.pathsIn(frame, part).map((p) => flatten(p, FINE)), this.outline) // prettier-ignore
      return own - top > gap + FREE * open && own < bottom ? [{ kind: 'teeth-apart', part }] : []
    })
  }
}

/** Upper and lower end of lines where they pass the middle of a mouth, px down from the line through its corners. */
function depthsOf(lines: readonly (readonly number[])[], { middle, along, down, half }: MouthOutline): readonly [number, number] {
  const depths = lines.flatMap((line) =>
    line.flatMap((x0, k) => {
      if (k % 2 === 1) return []
      const [y0, x1, y1] = [line[k + 1]!, line[(k + 2) % line.length]!, line[(k + 3) % line.length]!]
      const [a, b] = [(x0 - middle.x) * along.x + (y0 - middle.y) * along.y, (x1 - middle.x) * along.x + (y1 - middle.y) * along.y]
      if (a * b > 0 || Math.abs(a - b) < 1e-9 || Math.abs(a) > 4 * half) return []
      const [x, y] = [x0 + (a / (a - b)) * (x1 - x0), y0 + (a / (a - b)) * (y1 - y0)]
      return [(x - middle.x) * down.x + (y - middle.y) * down.y]
    }),
  )
  return depths.length === 0 ? [0, 0] : [Math.min(...depths), Math.max(...depths)]
}

/** How far a closed path turns at each of its points, degrees from 0 to 180. */
export function turnsOf(path: Path): number[] {
  const count = segmentCount(path)
  return path.ids.map((_, k) => {
    const into = directions(segmentAt(path, (k + count - 1) % count)).at(-1)
    const out = directions(segmentAt(path, k % count))[0]
    if (into === undefined || out === undefined) return 0
    return Math.abs((Math.atan2(Math.sin(out - into), Math.cos(out - into)) * 180) / Math.PI)
  })
}

/** Headings of the legs of a cubic's control polygon that have a length, radians. */
const directions = (c: readonly number[]): number[] =>
  [0, 2, 4].flatMap((k) => {
    const [x, y] = [c[k + 2]! - c[k]!, c[k + 3]! - c[k + 1]!]
    return Math.hypot(x, y) < 1e-6 ? [] : [Math.atan2(y, x)]
  })
