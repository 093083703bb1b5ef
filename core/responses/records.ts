/**
 * Responses: recorded changes that answer to an input.
 *
 * A ruler has one input and stops along it, a pad two and stops in the plane; a correction answers to a combination of
 * inputs. Rest is a stop of every ruler and pad that changes nothing and is not written down. A response owns what was
 * recorded in its stops, and nothing else.
 */
import { z } from 'zod'
import { Colour, count, finite, Name, size } from '../kernel/numbers'
import { BoneId, ChannelAddress, DrawingId, PartId, ResponseId, StopId, TargetId } from '../kernel/ids'
import { Curve } from '../kernel/curve'

/** A spot that goes along with the skeleton. */
export const InputSpot = z.union([z.object({ bone: BoneId, end: z.enum(['start', 'end']) }), z.object({ target: TargetId })])
export type InputSpot = z.infer<typeof InputSpot>

/** What a response listens to. */
export const Input = z.discriminatedUnion('kind', [
  /** A channel; the angle of a bone is the one that it ends up with, constraints included. */
  z.object({ kind: z.literal('channel'), channel: ChannelAddress }),
  /** How far two spots are from each other, canvas px. */
  z.object({ kind: z.literal('distance'), from: InputSpot, to: InputSpot }),
  /** The direction from one spot to another, degrees from that at rest. */
  z.object({ kind: z.literal('direction'), from: InputSpot, to: InputSpot }),
  /** How fast a bone turns on the canvas, degrees a second; only while something plays or is dragged. */
  z.object({ kind: z.literal('speed'), bone: BoneId }),
])
export type Input = z.infer<typeof Input>

const common = {
  muted: z.boolean(),
  /** How much of it counts, 1 for all. */
  scale: finite,
}

/** One thing that a stop changes. */
export const Change = z.discriminatedUnion('kind', [
  /** A channel that adds or turns is changed by a number, one that scales by a factor. */
  z.object({ kind: z.literal('channel'), ...common, channel: ChannelAddress, by: finite }),
  /** A channel of which one of several is chosen. */
  z.object({ kind: z.literal('choice'), ...common, channel: ChannelAddress, to: finite }),
  /**
   * Points of a drawing as a part shows it. `by` [6n]: for each id the shift of the anchor and of the handles in and out
   * (relative to the anchor), in the part's own space; `widths` [n] what is added to the thickness there.
   */
  z
    .object({
      kind: z.literal('points'),
      ...common,
      part: PartId,
      drawing: DrawingId,
      ids: z.array(count).min(1),
      by: z.array(finite),
      widths: z.array(finite).optional(),
    })
    .refine((c) => c.by.length === 6 * c.ids.length, 'moved points have six numbers each')
    .refine((c) => c.widths === undefined || c.widths.length === c.ids.length, 'moved points have one thickness each'),
  /** The colour of a shape's ink or line, or of one stop of its gradient. */
  z.object({
    kind: z.literal('paint'),
    ...common,
    part: PartId,
    drawing: DrawingId,
    shape: count,
    of: z.enum(['ink', 'line']),
    stop: count.nullable(),
    to: Colour,
  }),
  /** The width of a shape's line, by a factor. */
  z.object({
    kind: z.literal('width'),
    ...common,
    part: PartId,
    drawing: DrawingId,
    shape: count,
    by: size,
  }),
])
export type Change = z.infer<typeof Change>

/** The changes of one kind. */
export type ChangeOf<K extends Change['kind']> = Extract<Change, { kind: K }>

/** One recorded position of the inputs of a response. */
export const Stop = z.object({
  id: StopId,
  /** One number for each input. */
  at: z.array(finite).min(1).max(6),
  changes: z.array(Change).max(2000),
})
export type Stop = z.infer<typeof Stop>

/** Recorded changes that answer to inputs. */
export const Response = z
  .object({
    id: ResponseId,
    name: Name,
    kind: z.enum(['ruler', 'pad', 'correction']),
    inputs: z.array(Input).min(1).max(6),
    stops: z.array(Stop).max(400),
    /** How it goes from stop to stop: evenly, smoothly through them, or by a curve of its own. */
    between: z.enum(['even', 'smooth', 'curve']),
    curve: Curve,
    /** Beyond the last stop it stays as it is there, or goes on. */
    beyond: z.enum(['hold', 'continue']),
    /** Whether a smooth way may go beyond the values of the stops that it lies between. */
    overshoots: z.boolean(),
    /** How a correction fades in: by the product of its inputs or by the least of them. */
    fade: z.enum(['product', 'least']),
    /** Share of the way from one stop to the next at which choices switch. */
    switchAt: z.number().min(0.05).max(0.95),
    /** Where two choose for the same channel, the higher one decides. */
    priority: z.number().int().min(-100).max(100),
    muted: z.boolean(),
  })
  .refine(
    (r) => (r.kind === 'ruler' ? r.inputs.length === 1 : r.kind === 'pad' ? r.inputs.length === 2 : r.inputs.length >= 2),
    'a ruler has one input, a pad two, a correction two or more',
  )
  .refine((r) => r.stops.every((s) => s.at.length === r.inputs.length), 'a stop has one number for each input')
export type Response = z.infer<typeof Response>

/** What a change is about; a stop has at most one change of each. */
export function changeKey(change: Change): string {
  if (change.kind === 'channel' || change.kind === 'choice') return change.channel
  if (change.kind === 'points') return `points/${change.part}/${change.drawing}`
  if (change.kind === 'width') return `width/${change.part}/${change.drawing}/${change.shape}`
  return `paint/${change.part}/${change.drawing}/${change.shape}/${change.of}/${change.stop ?? ''}`
}

/** The part or channel that a change is about. */
export const channelOfChange = (change: Change): string | null =>
  change.kind === 'channel' || change.kind === 'choice' ? change.channel : null

/** The part that a change moves; null where it moves something else. */
export const partOfChange = (change: Change): string | null => (change.kind === 'channel' || change.kind === 'choice' ? null : change.part)

/** Channels that a response chooses for in any of its stops. */
export const chosenBy = ({ stops }: Pick<Response, 'stops'>): Set<string> =>
  new Set(stops.flatMap((s) => s.changes.flatMap((c) => (c.kind === 'choice' ? [c.channel] : []))))
