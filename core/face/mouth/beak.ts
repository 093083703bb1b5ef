/**
 * A beak of two halves. Seen from the side both turn about the hinge at its root, seen from the front the lower half drops between its
 * corners; what shows between them is the lower half once more, dark and stretched from one to the other.
 */
import type { PartId } from '../../kernel/ids'
import type { Vec } from '../../kernel/numbers'
import type { Drawing } from '../../artwork/records'
import type { Puppet } from '../../puppet/schema'
import type { Change } from '../../responses/records'
import { edit, type Edit } from '../../kernel/command'
import { sure } from '../../kernel/sure'
import { partChannel } from '../../parts/channels'
import { movePart } from '../../parts/commands'
import { partOf } from '../../parts/lookup'
import { newPart } from '../../parts/new'
import { restBounds, restPivot } from '../../parts/tree'
import { setMasks } from '../../layering/commands'
import { addArtwork } from '../../puppet/artworkCommands'
import { toDegrees } from '../../maths/geometry/affine'
import type { Bounds } from '../../maths/geometry/bounds'
import { smoothly } from '../outlineMoves'
import { shifted } from '../sliders'
import { bow, LOWER_SHARE, movableDrawing, movedParts, UPPER_SHARE } from './moves'
import { insideOfBeak, slidersMade, type MouthPlan } from './plan'
import { INSIDE } from './lipLine'
import { boundAs } from '../copied'

/** How a spot of a half goes, px on the canvas. */
type Step = (spot: Vec) => readonly [number, number]

/** A beak whose middle lies further from that of the face than this share of half the face's width is seen from the side. */
const FROM_SIDE = 0.3

interface Beak {
  readonly upper: Bounds
  readonly lower: Bounds
  /** Where both halves turn; null where it is seen from the front. */
  readonly hinge: Vec | null
}

function beakOf(puppet: Puppet, { parts, jaw }: MouthPlan, lowerBeak: PartId): Beak {
  const [upper, lower] = [sure(restBounds(puppet, parts.lips)), sure(restBounds(puppet, lowerBeak))]
  const face = jaw && restBounds(puppet, jaw.face)
  const off = face ? (upper.minX + upper.maxX - face.minX - face.maxX) / (face.maxX - face.minX) : 0
  const hinge = Math.abs(off) < FROM_SIDE ? null : { x: off > 0 ? lower.minX : lower.maxX, y: (upper.maxY + lower.minY) / 2 }
  return { upper, lower, hinge }
}

/** How a half opens: turned about the hinge, or down between its corners; `share` of the opening, below 0 upwards. */
function stepOf({ lower, hinge }: Beak, opening: number, share: number): Step {
  const half = (lower.maxX - lower.minX) / 2
  if (!hinge) return ({ x }) => [0, share * opening * 2 * half * bow((x - (lower.minX + lower.maxX) / 2) / half)]
  const angle = turnOf({ lower, hinge }, opening, share)
  const [c, s] = [Math.cos(angle) - 1, Math.sin(angle)]
  return ({ x, y }) => [c * (x - hinge.x) - s * (y - hinge.y), s * (x - hinge.x) + c * (y - hinge.y)]
}

/** Angle of a half about the hinge, radians, clockwise on the canvas. */
function turnOf({ lower, hinge }: Pick<Beak, 'lower' | 'hinge'>, opening: number, share: number): number {
  const side = hinge && lower.minX < hinge.x - 1 ? -1 : 1
  return side * share * Math.atan(opening)
}

/** The changes of a half: of its points, or of its placement where it is a picture or a group. */
function halfOpened(puppet: Puppet, part: PartId, beak: Beak, opening: number, share: number): Change[] {
  const step = stepOf(beak, opening, share)
  if (movableDrawing(puppet, part)) return movedParts(puppet, [part], smoothly(step))
  const [dx, dy] = step(beak.hinge ? restPivot(puppet, part) : { x: (beak.lower.minX + beak.lower.maxX) / 2, y: beak.lower.minY })
  const turn = beak.hinge ? -toDegrees(turnOf(beak, opening, share)) : 0
  const turned: Change[] = turn === 0 ? [] : [{ kind: 'channel', muted: false, scale: 1, channel: partChannel(part, 'angle'), by: turn }]
  return [...turned, ...shifted(part, 'x', dx), ...shifted(part, 'y', dy)]
}

/** The lower half once more, dark. */
function insideOf(drawing: Drawing, id: string): Drawing {
  const dark = { paint: { kind: 'flat' as const, colour: INSIDE }, alpha: 1, rule: 'nonzero' as const }
  return { id, shapes: drawing.shapes.filter((s) => s.ink).map((s) => ({ ...s, ink: dark, line: null })) }
}

/** Share of the width by which a beak gets narrower and wider. */
const NARROWER = -0.25
const WIDER = 0.12

/** The edits that build a beak. */
export function beakEdits(puppet: Puppet, plan: MouthPlan, lowerBeak: PartId, id: string): Edit[] {
  const beak = beakOf(puppet, plan, lowerBeak)
  const { lips, tongue, along, below } = plan.parts
  const drawing = movableDrawing(puppet, lowerBeak)
  const inside = drawing ? { part: insideOfBeak(id), drawing: insideOf(drawing, `${insideOfBeak(id)}-drawing`) } : null
  const { minY, maxY } = beak.lower
  const between: Step = (spot) => {
    const share = Math.min(1, Math.max(0, (spot.y - minY) / Math.max(1, maxY - minY)))
    return stepOf(beak, plan.opening, -UPPER_SHARE + share * (LOWER_SHARE + UPPER_SHARE))(spot)
  }
  const insideOpened: Change[] =
    drawing && inside
      ? movedParts(puppet, [lowerBeak], smoothly(between)).map((c) =>
          c.kind === 'points' ? { ...c, part: inside.part, drawing: inside.drawing.id } : c,
        )
      : []
  const open = [
    ...halfOpened(puppet, lips, beak, plan.opening, -UPPER_SHARE),
    ...[lowerBeak, ...below].flatMap((part) => halfOpened(puppet, part, beak, plan.opening, LOWER_SHARE)),
    ...(tongue === null ? [] : halfOpened(puppet, tongue, beak, plan.opening, LOWER_SHARE / 2)),
    ...insideOpened,
  ]
  const from = beak.hinge?.x ?? (beak.lower.minX + beak.lower.maxX) / 2
  const wide = (by: number): Change[] =>
    movedParts(
      puppet,
      [lips, lowerBeak, ...along],
      smoothly(({ x }) => [by * (x - from), 0]),
    )
  const raised = tongue === null ? [] : halfOpened(puppet, tongue, beak, plan.opening, -UPPER_SHARE)
  return [
    ...(inside && !puppet.parts[inside.part] ? insideAdded(puppet, lowerBeak, inside) : []),
    ...(tongue !== null && inside && partOf(puppet, tongue).masks.length === 0
      ? [edit(setMasks, { part: tongue, masks: [{ shape: inside.part, keep: 'inside', by: 'area' }] })]
      : []),
    ...slidersMade(
      [
        { key: 'open', name: 'Open', voice: 'open', rest: 0, stops: [[1, open]] },
        { key: 'wide', name: 'Width', voice: 'wide', rest: null, stops: [[-1, wide(NARROWER)], [1, wide(WIDER)]] }, // prettier-ignore
        { key: 'tongue', name: 'Tongue', voice: 'tongue', rest: 0, stops: [[1, raised]] },
      ],
      id,
    ),
  ]
}

/** What shows between the halves lies below the lower one. */
function insideAdded(puppet: Puppet, lowerBeak: PartId, { part, drawing }: { readonly part: PartId; readonly drawing: Drawing }): Edit[] {
  const own = partOf(puppet, lowerBeak)
  const parent = own.parent ?? puppet.root
  const copy = {
    ...newPart(part, 'Inside the beak', { kind: 'drawing' }),
    pivot: own.pivot,
    home: own.home,
    art: { [puppet.view]: drawing.id },
  }
  return [
    edit(addArtwork, { parent, parts: [copy], drawings: [drawing] }),
    edit(movePart, { part, parent, index: partOf(puppet, parent).children.indexOf(lowerBeak) }),
    ...boundAs(puppet, lowerBeak, part),
  ]
}
