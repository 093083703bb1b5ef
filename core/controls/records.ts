/** Controls: sliders, dials, pads, toggles and levers, and what they drive. */
import { z } from 'zod'
import { finite, Name, positiveOrZero, Vec } from '../kernel/numbers'
import { BoneId, ChannelAddress, ClipId, ControlId, PartId } from '../kernel/ids'
import { Curve } from '../kernel/curve'
import { sure } from '../kernel/sure'

/** From where to where a value goes, and where it rests. */
export const Range = z
  .object({ min: finite, max: finite, rest: finite })
  .refine((r) => r.min < r.max, 'a range needs room between its ends')
  .refine((r) => r.rest >= r.min && r.rest <= r.max, 'rest must lie within the range')
export type Range = z.infer<typeof Range>

/**
 * A channel that goes along with a control: while the control goes from `from[0]` to `from[1]`, it is moved by `to[0]` to
 * `to[1]`, less what it is moved by at the control's rest. `axis` is the direction of a pad that counts.
 */
export const Tie = z.object({
  channel: ChannelAddress,
  axis: z.enum(['value', 'x', 'y']),
  from: z.tuple([finite, finite]).refine(([a, b]) => a !== b, 'a tie needs a range that it goes by'),
  to: z.tuple([finite, finite]),
  curve: Curve.nullable(),
})
export type Tie = z.infer<typeof Tie>

/** Where a control can be taken hold of besides the shelf. */
export const ControlPlace = z.discriminatedUnion('on', [
  z.object({ on: z.literal('shelf') }),
  /** Pinned to a part, going along with the spot `at` of its own space, or to the canvas where `part` is null. */
  z.object({ on: z.literal('stage'), part: PartId.nullable(), at: Vec, size: z.number().min(24).max(400) }),
  /** Nowhere: it goes through the shapes that a part was given by hand in a clip. */
  z.object({ on: z.literal('clip'), clip: ClipId, part: PartId }),
])
export type ControlPlace = z.infer<typeof ControlPlace>

/** How a control is handled. */
export const ControlKind = z.enum(['slider', 'dial', 'pad', 'toggle', 'lever'])
export type ControlKind = z.infer<typeof ControlKind>

/** What speech does to a mouth that is moved by controls. */
export const Voice = z.enum(['open', 'wide', 'teeth', 'tongue'])
export type Voice = z.infer<typeof Voice>

/** Number of colours that tell controls apart. */
export const CONTROL_COLOURS = 8

/** Something that is moved by hand to pose a puppet. */
export const Control = z
  .object({
    id: ControlId,
    name: Name,
    kind: ControlKind,
    colour: z.number().int().min(1).max(CONTROL_COLOURS),
    /** Name of the group that it stands in; empty for none. */
    group: z.string().max(80),
    /** Of a pad the way to the right; of a lever the bone's limits count instead. */
    range: Range,
    /** Of a pad the way up; null for all others. */
    up: Range.nullable(),
    /** Values are whole steps away from rest; 0 for none. */
    step: positiveOrZero,
    /** Whether it goes back to rest when it is let go of. */
    springs: z.boolean(),
    /** Whether its range stays as far to one side of rest as to the other. */
    symmetric: z.boolean(),
    /** The bone that a lever is. */
    bone: BoneId.nullable(),
    ties: z.array(Tie).max(100),
    place: ControlPlace,
    /** What of a speaking mouth it is: speech moves it from rest to the end of its range. */
    voice: Voice.optional(),
  })
  .refine((c) => (c.kind === 'pad') === (c.up !== null), 'a pad has two ranges, all others have one')
  .refine((c) => (c.kind === 'lever') === (c.bone !== null), 'a lever is a bone, all others are none')
export type Control = z.infer<typeof Control>

/** Whether people play a control; those that serve a clip are played by it alone. */
export const isForPeople = ({ place }: Pick<Control, 'place'>): boolean => place.on !== 'clip'

/** Axes of a control that can be set. */
export const axesOf = ({ kind }: Pick<Control, 'kind'>): readonly ('value' | 'x' | 'y')[] =>
  kind === 'pad' ? ['x', 'y'] : kind === 'lever' ? [] : ['value']

/** The range along an axis. */
export const rangeAlong = (control: Control, axis: 'value' | 'x' | 'y'): Range => (axis === 'y' ? sure(control.up) : control.range)

/** The value at a share of the way from rest to the end of a range, below 0 to its other end. */
export const valueAtShare = ({ min, max, rest }: Range, share: number): number => rest + share * (share >= 0 ? max - rest : rest - min)

/** Address of a control's value along an axis; of a lever the angle of its bone. */
export const controlChannel = ({ id, bone }: Pick<Control, 'id' | 'bone'>, axis: 'value' | 'x' | 'y' = 'value'): string =>
  bone === null ? `control/${id}/${axis}` : `bone/${bone}/angle`

/** A value brought to whole steps from rest, and into the range. */
export function stepped({ step }: Pick<Control, 'step'>, { min, max, rest }: Range, value: number): number {
  const whole = step > 0 ? rest + Math.round((value - rest) / step) * step : value
  return Math.min(max, Math.max(min, whole))
}
