/**
 * Building a mouth that is moved by controls: lips that open, close, widen, smile and frown by responses proposed from their own
 * outline, teeth and tongue that show only inside of them, and a jaw that goes along below a line. All of it is ordinary:
 * the rigger corrects it by recording.
 */
import type { PartId } from '../../kernel/ids'
import type { Change } from '../../responses/records'
import type { Puppet } from '../../puppet/schema'
import { drawingOf, restBounds } from '../../parts/tree'
import { smoothstep } from '../../maths/solve/smoothstep'
import { setMasks } from '../../layering/commands'
import { changeArt } from '../../joints/commands'
import { lineOnTop } from '../lineOnTop'
import { smoothly } from '../outlineMoves'
import { shifted } from '../sliders'
import { madeAnew } from '../anew'
import { beakEdits } from './beak'
import { slidersMade, type MouthPlan, type Slider } from './plan'
import { edit, type Edit } from '../../kernel/command'
import { sure } from '../../kernel/sure'
import { partOf } from '../../parts/lookup'
import { bend, besideLips, closing, closingMove, lipMove, movedParts, opened, type LipMove } from './moves'
import { depthAt, drawnGap, inMouth, mouthOutline, onCanvas, type MouthOutline } from './outline'
import { teethAlong, teethShown, tongueAlong, tongueRaised } from './inside'
import { canOpen, linesOnLips, withOutline } from './lipLine'
import { groundBelow, largestShare, staysOn, type Reached } from './room'

/** Why a part cannot be lips, in a sentence; null where it can. */
export function lipsProblem(puppet: Puppet, part: PartId): string | null {
  const drawing = puppet.parts[part] && drawingOf(puppet, puppet.parts[part])
  if (!drawing || partOf(puppet, part).content.kind !== 'drawing')
    return 'The mouth has to be a drawing: points of pictures cannot be recorded.'
  return canOpen(drawing) ? null : 'The mouth needs an outline or a line, so that something can show inside of it.'
}

/**
 * The edits that build a mouth, or build it anew. The line of the lips is drawn on top of what shows inside, once, as a part of its own.
 *
 * @param id what new ids begin with; that of a mouth which is there
 */
export const mouthEdits = (puppet: Puppet, plan: MouthPlan, id: string): Edit[] =>
  madeAnew(puppet, plan.parts.lowerBeak === null ? lipsEdits(puppet, plan, id) : beakEdits(puppet, plan, plan.parts.lowerBeak, id))

function lipsEdits(original: Puppet, plan: MouthPlan, id: string): Edit[] {
  const { lips, teethUpper, teethLower, tongue } = plan.parts
  const drawn = sure(drawingOf(original, partOf(original, lips)))
  const drawing = withOutline(drawn)
  const puppet = drawing === drawn ? original : { ...original, drawings: { ...original.drawings, [drawing.id]: drawing } }
  const line = lineOnTop(
    puppet,
    lips,
    [teethUpper, teethLower, tongue].filter((p) => p !== null),
    `${id}-line`,
  )
  const masks = [teethUpper, teethLower, tongue].flatMap((part) => {
    const inside = { shape: lips, keep: 'inside' as const, by: 'area' as const }
    return part === null ? [] : [edit(setMasks, { part, masks: [...partOf(puppet, part).masks, inside] })]
  })
  const mouth = new Mouth(puppet, plan)
  const onTop = (changes: readonly Change[]): Change[] =>
    changes.flatMap((c) => (line && c.kind === 'points' && c.part === lips ? [c, { ...c, part: line.part, drawing: line.drawing }] : [c]))
  const sliders = mouth.sliders().map((s) => ({ ...s, stops: s.stops.map(([at, changes]) => [at, onTop(changes)] as const) }))
  return [
    ...(drawing === drawn ? [] : [edit(changeArt, { drawings: [drawing], pictures: [] })]),
    ...(line?.edits ?? []),
    ...masks,
    ...slidersMade(sliders, id),
  ]
}

/** Shares of half its width by which a mouth gets narrower and wider, and by which its corners rise and it gets wider in a smile. */
const NARROWER = -0.42
const WIDER = 0.2
const SMILE = { wider: 0.1, lower: -0.2 } as const
const FROWN_WIDER = -0.08
/** Share of the opening that what lies below the lips goes down by. */
const BELOW = 0.62
/** A gap wider than this, as a share of half the width, is a mouth that is drawn open. */
const DRAWN_OPEN = 0.1

/** The sliders of one mouth: what each moves, in shares of how far it opens and of half its width. */
class Mouth {
  private readonly outline: MouthOutline
  /** Lips and the lines on them. */
  private readonly lips: readonly PartId[]
  /** How far it is drawn open, and how far it opens from there, px. */
  private readonly gap: number
  private readonly opens: number
  /** Shares of moves to the sides, and of the opening, at which all of them together stay on the face. */
  private readonly sideways: number

  constructor(
    private readonly puppet: Puppet,
    private readonly plan: MouthPlan,
  ) {
    const { lips, teethUpper, teethLower, tongue, along, below } = plan.parts
    this.outline = mouthOutline(puppet, lips)
    const others = new Set([teethUpper, teethLower, tongue, ...along, ...below, plan.jaw?.face ?? null])
    this.lips = [lips, ...linesOnLips(puppet, this.outline, lips).filter((p) => !others.has(p))]
    const gap = drawnGap(this.outline)
    this.gap = gap > DRAWN_OPEN * this.outline.half ? gap : 0
    const wanted = Math.max(plan.opening * 2 * this.outline.half, 1.25 * this.gap) - this.gap
    const [sideways, open] = this.shares(wanted)
    this.sideways = sideways
    this.opens = open * wanted
  }

  sliders(): Slider[] {
    const { teethUpper, teethLower, tongue } = this.plan.parts
    const full = this.gap + this.opens
    const rest = this.gap > 0 ? Math.round((1000 * this.gap) / full) / 1000 : 0
    const open = [...(rest > 0 ? [[0, this.closed()] as const] : []), [1, this.openedBy(this.opens)] as const]
    const width = (by: number): Change[] => this.lipsAlong(this.wider(by))
    const smile = (wider: number, lower: number): Change[] => this.lipsAlong(this.smiling(wider, lower))
    const teeth = [
      ...teethShown(this.puppet, teethUpper, this.outline, 0.3 * full, false),
      ...teethShown(this.puppet, teethLower, this.outline, 0.25 * full, true),
    ]
    return [
      { key: 'open', name: 'Open', voice: 'open', rest, stops: open },
      {
        ...{ key: 'wide', name: 'Width', voice: 'wide' as const, rest: null },
        stops: [
          [-1, width(NARROWER)],
          [1, width(WIDER * this.sideways)],
        ],
      },
      {
        ...{ key: 'mood', name: 'Mood', voice: null, rest: null },
        stops: [
          [-1, smile(FROWN_WIDER, this.frown() * this.sideways)],
          [1, smile(SMILE.wider * this.sideways, SMILE.lower * this.sideways)],
        ],
      },
      { key: 'teeth', name: 'Teeth', voice: 'teeth', rest: 0, stops: [[1, teeth]] },
      {
        key: 'tongue',
        name: 'Tongue',
        voice: 'tongue',
        rest: 0,
        stops: [[1, tongueRaised(this.puppet, tongue, this.outline, 0.3 * full)]],
      },
    ]
  }

  private readonly wider =
    (by: number): LipMove =>
    (u) => [by * this.outline.half * u, 0]

  private readonly smiling =
    (wider: number, lower: number): LipMove =>
    (u) => [wider * this.outline.half * u, lower * this.outline.half * bend(u, this.gap > 0 ? 0.4 : 1)]

  /** What a move of the lips does to all that goes with them. */
  private lipsAlong(move: LipMove): Change[] {
    const { teethUpper, teethLower, tongue, along } = this.plan.parts
    const { puppet, outline } = this
    return [
      ...movedParts(puppet, this.lips, lipMove(outline, move)),
      ...movedParts(puppet, along, lipMove(outline, besideLips(move))),
      ...teethAlong(puppet, teethUpper, outline, move, false),
      ...teethAlong(puppet, teethLower, outline, move, true),
      ...tongueAlong(puppet, tongue, outline, move),
    ]
  }

  private openedBy(by: number): Change[] {
    return [...this.lipsAlong(opened(this.outline, by)), ...this.jawAlong(by)]
  }

  /** A mouth that is drawn open, closed. */
  private closed(): Change[] {
    // Of what goes with the lips, only the lips themselves lie on their outline.
    const others = this.lipsAlong(closingMove(this.outline)).filter((c) => c.kind !== 'points' || !this.lips.includes(c.part))
    return [...movedParts(this.puppet, this.lips, closing(this.outline)), ...others, ...this.jawAlong(-this.gap)]
  }

  /** What lies below the lips, and the chin, go down by their share of an opening. */
  private jawAlong(by: number): Change[] {
    const below = this.plan.parts.below.flatMap((part) => shifted(part, 'y', BELOW * by))
    const { jaw } = this.plan
    return jaw
      ? [
          ...below,
          ...movedParts(
            this.puppet,
            [jaw.face],
            smoothly((spot) => this.chin(spot, by)),
          ),
        ]
      : below
  }

  /** The chin and all below a line of the face go down; the skin between is stretched. */
  private chin({ y }: { readonly y: number }, by: number): readonly [number, number] {
    const { jaw } = this.plan
    const box = jaw && restBounds(this.puppet, jaw.face)
    if (!box || box.maxY <= jaw.line) return [0, 0]
    return [0, jaw.amount * by * smoothstep(Math.min(1, Math.max(0, (y - jaw.line) / (box.maxY - jaw.line))))]
  }

  /** How far corners go down to a frown, in half widths: the more they smile at rest, the further. */
  private frown(): number {
    const smile = (depthAt(this.outline, 'upper', 0) + depthAt(this.outline, 'lower', 0)) / 2 / this.outline.half
    return Math.min(0.8, Math.max(0.3, 0.62 * (smile + HANGS)))
  }

  /** Shares at which smile, frown and width, and then the opening with each of them, stay on the face. */
  private shares(wanted: number): readonly [sideways: number, open: number] {
    const ground = groundBelow(this.puppet, this.outline, this.plan.parts.lips, this.plan.jaw?.face ?? null)
    if (!ground || !staysOn(ground, this.outline, this.reached(0, 0, 0))) return [1, 1]
    const all = (sideways: number, open: number): boolean =>
      [-1, 0, 1].every((mood) => staysOn(ground, this.outline, this.reached(sideways, open, mood)))
    const sideways = largestShare((share) => all(share, 0))
    return [sideways, largestShare((share) => all(sideways, share * wanted))]
  }

  /** Widest, at one end of the smile, and opened by so many px. */
  private reached(sideways: number, open: number, mood: number): Reached {
    const lower = mood > 0 ? SMILE.lower : mood < 0 ? this.frown() : 0
    const wider = mood > 0 ? SMILE.wider : mood < 0 ? FROWN_WIDER / Math.max(sideways, 1e-3) : 0
    const moves = [this.wider(WIDER * sideways), this.smiling(wider * sideways, lower * sideways), opened(this.outline, open)]
    return {
      lips: (spot, isLower) => {
        const { u } = inMouth(this.outline, spot)
        const sum = moves.map((move) => move(u, isLower)).reduce((a, b) => [a[0] + b[0], a[1] + b[1]], [0, 0])
        return onCanvas(this.outline, sum)
      },
      face: (spot) => this.chin(spot, open),
    }
  }
}

/** How deep a frown hangs, in half widths of the mouth. */
const HANGS = 0.42
