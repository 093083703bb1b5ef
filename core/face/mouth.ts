/**
 * Building a mouth that is moved by controls: lips that open, widen, smile and frown by responses proposed from their own
 * outline, teeth and tongue that show only inside of them, and a jaw that goes along below a line. All of it is ordinary:
 * the rigger corrects it by recording.
 */
import type { PartId } from '../kernel/ids'
import type { Change, ChangeOf } from '../responses/records'
import type { Drawing } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import type { Voice } from '../controls/records'
import { drawingOf, restBounds } from '../parts/tree'
import { smoothstep } from '../maths/solve/smoothstep'
import { setMasks } from '../layering/commands'
import { lineOnTop, type TopLine } from './lineOnTop'
import { lowerStretches, middleY, movedPoints, widestOutline } from './outlineMoves'
import { shifted, sliderEdits } from './sliders'
import { edit, type Edit } from '../kernel/command'
import { nth, sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'

/** The parts of a mouth. */
export interface MouthParts {
  /** The drawing whose closed outline is the mouth. */
  readonly lips: PartId
  readonly teethUpper: PartId | null
  readonly teethLower: PartId | null
  readonly tongue: PartId | null
  /** Drawings that go along with the corners of the lips: dimples, a moustache. */
  readonly along: readonly PartId[]
  /** What goes down below the lips with them: a shadow, a chin. */
  readonly below: readonly PartId[]
}

/** What goes down with an open mouth. */
export interface Jaw {
  /** The drawing of the face whose lower part follows. */
  readonly face: PartId
  /** Canvas y of the line through it, and how much of the opening the chin takes, 0 to 1. */
  readonly line: number
  readonly amount: number
}

/** What is to be built for a mouth. */
export interface MouthPlan {
  readonly parts: MouthParts
  readonly jaw: Jaw | null
  /** How far it opens, as a share of its width. */
  readonly opening: number
}

interface MouthBox {
  readonly x: number
  readonly half: number
}

/** What lies further out than this, in half widths, goes along with the corner as one piece. */
const NEAR_CORNER = 0.6

/** How a spot of the lips moves: `u` is -1 at one corner, 1 at the other. */
type Move = (u: number, isLower: boolean) => readonly [number, number]

/** What moves the points of the lips; `move` is told where a spot is between the corners. */
function lipsChange(puppet: Puppet, part: PartId, drawing: Drawing, box: MouthBox, move: Move): ChangeOf<'points'> {
  const main = widestOutline(drawing)
  const lower = main ? lowerStretches(main) : []
  return movedPoints(puppet, part, drawing, (spot, path, stretch) =>
    move((spot.x - box.x) / box.half, path === main && nth(lower, stretch)),
  )
}

/** The chin and all below a line of the face go down; the skin between is stretched. */
function jawChange(puppet: Puppet, { face, line, amount }: Jaw, by: number): Change[] {
  const part = puppet.parts[face]
  const drawing = part && drawingOf(puppet, part)
  const box = restBounds(puppet, face)
  if (!part || !drawing || !box || box.maxY <= line || amount === 0) return []
  const change = movedPoints(puppet, face, drawing, ({ y }) => {
    const t = Math.min(1, Math.max(0, (y - line) / (box.maxY - line)))
    return [0, amount * by * smoothstep(t)]
  })
  return change.ids.length === 0 ? [] : [change]
}

/** Why a part cannot be lips, in a sentence; null where it can. */
export function lipsProblem(puppet: Puppet, part: PartId): string | null {
  const drawing = puppet.parts[part] && drawingOf(puppet, puppet.parts[part])
  if (!drawing || partOf(puppet, part).content.kind !== 'drawing')
    return 'The mouth has to be a drawing: points of pictures cannot be recorded.'
  return widestOutline(drawing) ? null : 'The mouth needs a closed outline, so that something can show inside of it.'
}

/** A slider of the mouth with what answers to it; one-sided ones go from rest to 1. */
interface Slider {
  readonly key: string
  readonly name: string
  readonly voice: Voice | null
  readonly isOneSided: boolean
  readonly stops: readonly (readonly [at: number, changes: readonly Change[]])[]
}

/**
 * The edits that build a mouth. The line of the lips is drawn on top of what shows inside, once, as a part of its own.
 *
 * @param id what new ids begin with
 */
export function mouthEdits(puppet: Puppet, plan: MouthPlan, id: string): Edit[] {
  const { lips, teethUpper, teethLower, tongue } = plan.parts
  const outline = lineOnTop(puppet, lips, `${id}-line`)
  const inside = [teethUpper, teethLower, tongue].filter((p) => p !== null)
  const masks = inside.map((part) =>
    edit(setMasks, { part, masks: [...partOf(puppet, part).masks, { shape: lips, keep: 'inside' as const, by: 'area' as const }] }),
  )
  const sliders = slidersOf(puppet, plan, outline).filter((s) => s.stops.some(([, changes]) => changes.length > 0))
  return [
    ...(outline?.edits ?? []),
    ...masks,
    ...sliders.flatMap(({ key, name, ...slider }) =>
      sliderEdits({ ...{ id: `${id}-${key}`, name, answer: `Mouth ${name.toLowerCase()}`, group: 'Mouth', colour: 4 }, ...slider }),
    ),
  ]
}

/** Makes changes of a move of the lips: of their inside, of their line on top, and of what goes along with their corners. */
function lipsMover(puppet: Puppet, { lips, along }: MouthParts, box: MouthBox, outline: TopLine | null): (move: Move) => Change[] {
  const drawing = sure(drawingOf(puppet, partOf(puppet, lips)))
  const beside = along.flatMap((part) => {
    const own = puppet.parts[part] && drawingOf(puppet, puppet.parts[part])
    return own && partOf(puppet, part).content.kind === 'drawing' ? [{ part, drawing: own }] : []
  })
  return (move) => {
    const own = lipsChange(puppet, lips, drawing, box, move)
    const line = outline ? [{ ...own, part: outline.part, drawing: outline.drawing }] : []
    const asCorner: Move = (u) => move(Math.abs(u) > NEAR_CORNER ? Math.sign(u) : u, false)
    return [own, ...line, ...beside.map((b) => lipsChange(puppet, b.part, b.drawing, box, asCorner))]
  }
}

/** What the sliders do, in shares of how far the mouth opens and of half its width. */
function slidersOf(puppet: Puppet, { parts, jaw, opening }: MouthPlan, outline: TopLine | null): Slider[] {
  const { teethUpper, teethLower, tongue, below } = parts
  const box = sure(restBounds(puppet, parts.lips))
  const half = Math.max(1, (box.maxX - box.minX) / 2)
  const lips = lipsMover(puppet, parts, { x: (box.minX + box.maxX) / 2, half }, outline)
  const open = opening * 2 * half
  const bow = (u: number): number => Math.max(0, 1 - u * u)
  /** 1 at the corners, -1 in the middle. */
  const bend = (u: number): number => 2 * Math.min(1, u * u) - 1
  const down = (part: PartId | null, by: number): Change[] => (part === null ? [] : shifted(part, 'y', by))
  // Upper teeth are the skull's; all else goes with the jaw.
  const opened = [
    ...lips((u, isLower) => [-0.06 * half * u, (isLower ? 0.72 : -0.28) * open * bow(u)]),
    ...down(teethLower, 0.7 * open),
    ...down(tongue, 0.35 * open),
    ...below.flatMap((part) => down(part, 0.62 * open)),
    ...(jaw ? jawChange(puppet, jaw, open) : []),
  ]
  const width = (by: number): Change[] => lips((u) => [by * half * u, 0])
  const mood = (wider: number, lower: number): Change[] => lips((u) => [wider * half * u, lower * half * bend(u)])
  const frown = frownOf(puppet, parts.lips, half)
  const teeth = [...down(teethUpper, 0.3 * open), ...down(teethLower, -0.25 * open)]
  return [
    { key: 'open', name: 'Open', voice: 'open', isOneSided: true, stops: [[1, opened]] },
    {
      key: 'wide',
      name: 'Width',
      voice: 'wide',
      isOneSided: false,
      stops: [
        [-1, width(-0.42)],
        [1, width(0.2)],
      ],
    },
    {
      key: 'mood',
      name: 'Mood',
      voice: null,
      isOneSided: false,
      stops: [
        [-1, mood(-0.08, frown)],
        [1, mood(0.1, -0.2)],
      ],
    },
    { key: 'teeth', name: 'Teeth', voice: 'teeth', isOneSided: true, stops: [[1, teeth]] },
    { key: 'tongue', name: 'Tongue', voice: 'tongue', isOneSided: true, stops: [[1, down(tongue, -0.3 * open)]] },
  ]
}

/** How deep a frown hangs, in half widths of the mouth. */
const HANGS = 0.42

/** How far corners go down to a frown, in half widths: the more they smile at rest, the further. */
function frownOf(puppet: Puppet, lips: PartId, half: number): number {
  const outline = sure(widestOutline(sure(drawingOf(puppet, partOf(puppet, lips)))))
  const xs = outline.anchors.filter((_, k) => k % 2 === 0)
  const ys = outline.anchors.filter((_, k) => k % 2 === 1)
  const [left, right] = [xs.indexOf(Math.min(...xs)), xs.indexOf(Math.max(...xs))]
  const middle = outline.ids.reduce((sum, _, k) => sum + middleY(outline, k), 0) / outline.ids.length
  const smile = (middle - (nth(ys, left) + nth(ys, right)) / 2) / half
  // Handles lie nearer to the middle than the corners, and go up by less.
  return Math.min(0.8, Math.max(0.3, 0.62 * (smile + HANGS)))
}
