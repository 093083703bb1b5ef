/**
 * Channels: everything that can be posed. One table maps each address (`family/id/field`) to how its values
 * combine, its rest value, its limits and its label; poses, the command line and the interface all go through it.
 */
import { isDraft } from 'immer'
import { axesOf, handleName, handlesOf, rangeAlong, type Constraint, type Control, type Deformer, type Part, type Puppet } from './schema'

/** How values of a channel combine: they add, turn, multiply, or one of them is chosen. */
export type ChannelKind = 'scalar' | 'angle' | 'scale' | 'choice'

interface FieldSpec {
  readonly kind: ChannelKind
  readonly rest: number
  readonly label: string
  readonly unit: string
  readonly min?: number
  readonly max?: number
}

const MOVED = {
  x: { kind: 'scalar', rest: 0, label: 'Moved x', unit: 'px' },
  y: { kind: 'scalar', rest: 0, label: 'Moved y', unit: 'px' },
} as const
const TURNED = { kind: 'angle', rest: 0, label: 'Turned', unit: '°' } as const

const FIELDS = {
  bone: {
    angle: { kind: 'angle', rest: 0, label: 'Angle', unit: '°' },
    ...MOVED,
    length: { kind: 'scale', rest: 1, label: 'Length', unit: '' },
  },
  part: {
    ...MOVED,
    angle: TURNED,
    scaleX: { kind: 'scale', rest: 1, label: 'Scale x', unit: '' },
    scaleY: { kind: 'scale', rest: 1, label: 'Scale y', unit: '' },
    opacity: { kind: 'scalar', rest: 1, label: 'Opacity', unit: '', min: 0, max: 1 },
    shown: { kind: 'choice', rest: 1, label: 'Shown', unit: '', min: 0, max: 1 },
    order: { kind: 'choice', rest: 0, label: 'To the front', unit: '' },
    masked: { kind: 'choice', rest: 1, label: 'Masked', unit: '', min: 0, max: 1 },
    alternate: { kind: 'choice', rest: 0, label: 'Alternate', unit: '', min: 0 },
    before: { kind: 'choice', rest: 0, label: 'Alternate before', unit: '', min: 0 },
    way: { kind: 'scalar', rest: 1, label: 'Way from it', unit: '', min: 0, max: 1 },
  },
  puppet: {
    view: { kind: 'choice', rest: 0, label: 'View', unit: '', min: 0 },
  },
  control: {
    value: { kind: 'scalar', rest: 0, label: 'Value', unit: '' },
    x: { kind: 'scalar', rest: 0, label: 'Right', unit: '' },
    y: { kind: 'scalar', rest: 0, label: 'Up', unit: '' },
  },
  target: { ...MOVED, angle: TURNED },
  constraint: {
    amount: { kind: 'scalar', rest: 1, label: 'Amount', unit: '', min: 0, max: 1 },
    side: { kind: 'choice', rest: 0, label: 'Bend side', unit: '', min: -1, max: 1 },
    along: { kind: 'scalar', rest: 0, label: 'Along the path', unit: 'px' },
  },
  deformer: {
    on: { kind: 'choice', rest: 1, label: 'On', unit: '', min: 0, max: 1 },
    amount: { kind: 'scalar', rest: 1, label: 'Amount', unit: '' },
  },
  handle: {
    ...MOVED,
    angle: TURNED,
    scale: { kind: 'scale', rest: 1, label: 'Scale', unit: '', min: 0.01, max: 100 },
  },
} as const satisfies Record<string, Record<string, FieldSpec>>

export type ChannelFamily = keyof typeof FIELDS
export type BoneField = keyof (typeof FIELDS)['bone']
export type PartField = keyof (typeof FIELDS)['part']
type FieldOf<F extends ChannelFamily> = keyof (typeof FIELDS)[F] & string

export interface Channel {
  readonly address: string
  readonly family: ChannelFamily
  readonly id: string
  readonly field: string
  readonly kind: ChannelKind
  readonly rest: number
  readonly label: string
  readonly unit: string
  readonly min: number
  readonly max: number
}

/** Families that move something; a rig stores their fields in the order of this table. */
export const POSED_FAMILIES = ['bone', 'part', 'target', 'constraint', 'deformer', 'handle', 'control'] as const
export type PosedFamily = (typeof POSED_FAMILIES)[number]

/** Fields of a family in the order in which a rig stores them. */
export const fieldsOf = (family: ChannelFamily): readonly string[] => Object.keys(FIELDS[family])

/** The address of a field. */
export const channelAddress = <F extends ChannelFamily>(family: F, id: string, field: FieldOf<F>): string => `${family}/${id}/${field}`
export const boneChannel = (id: string, field: BoneField): string => channelAddress('bone', id, field)
/** The channel of the shown view: its place in the puppet's list of views. */
export const viewChannel = (puppet: Puppet): string => channelAddress('puppet', puppet.id, 'view')
export const partChannel = (id: string, field: PartField): string => channelAddress('part', id, field)

function specOf(family: ChannelFamily, field: string): FieldSpec | undefined {
  const fields: Record<string, FieldSpec> = FIELDS[family]
  return Object.hasOwn(fields, field) ? fields[field] : undefined
}

/** A handle with the deformer that it belongs to. */
interface HandleRecord {
  readonly id: string
  readonly name: string
  readonly deformer: Deformer
}

interface Stacked {
  readonly deformers: ReadonlyMap<string, Deformer>
  readonly handles: ReadonlyMap<string, HandleRecord>
}

const stacks = new WeakMap<Record<string, Part>, Stacked>()

/** Deformers of a part in all views, those of the shown one first. */
export const deformersInViews = ({ deformers, inViews }: Part): Deformer[] => [
  ...deformers,
  ...Object.values(inViews).flatMap((own) => own.deformers ?? []),
]

/**
 * All deformers and handles of a puppet by their ids, as they are in the shown view where they are in it: a pose may
 * hold values for other views. Found once for each document; a draft may change, and is asked anew.
 */
export function stackedIn({ parts }: Pick<Puppet, 'parts'>): Stacked {
  const known = isDraft(parts) ? undefined : stacks.get(parts)
  if (known) return known
  const deformers = new Map<string, Deformer>()
  const handles = new Map<string, HandleRecord>()
  for (const deformer of Object.values(parts).flatMap(deformersInViews)) {
    if (!deformers.has(deformer.id)) deformers.set(deformer.id, deformer)
    handlesOf(deformer).forEach((id, at) => {
      if (!handles.has(id)) handles.set(id, { id, name: handleName(deformer, at), deformer })
    })
  }
  const made = { deformers, handles }
  if (!isDraft(parts)) stacks.set(parts, made)
  return made
}

type Named = { readonly id: string; readonly name: string }

/** What has channels of a family, under an id; undefined where nothing does. */
function recordOf(puppet: Puppet, family: ChannelFamily, id: string): Named | undefined {
  const own = <T>(records: Record<string, T>): T | undefined => (Object.hasOwn(records, id) ? records[id] : undefined)
  if (family === 'bone') return own(puppet.bones)
  if (family === 'part') return own(puppet.parts)
  if (family === 'target') return own(puppet.targets)
  if (family === 'constraint') return puppet.constraints.find((c) => c.id === id)
  if (family === 'deformer') return stackedIn(puppet).deformers.get(id)
  if (family === 'handle') return stackedIn(puppet).handles.get(id)
  if (family === 'control') return puppet.controls.find((c) => c.id === id)
  return puppet.id === id ? puppet : undefined
}

/** Whatever has channels of a family. */
function recordsOf(puppet: Puppet, family: ChannelFamily): Named[] {
  if (family === 'bone') return Object.values(puppet.bones)
  if (family === 'part') return Object.values(puppet.parts)
  if (family === 'target') return Object.values(puppet.targets)
  if (family === 'constraint') return puppet.constraints
  if (family === 'deformer') return [...stackedIn(puppet).deformers.values()]
  if (family === 'handle') return [...stackedIn(puppet).handles.values()]
  if (family === 'control') return puppet.controls
  return [puppet]
}

export const isFamily = (family: string | undefined): family is ChannelFamily => family !== undefined && Object.hasOwn(FIELDS, family)

/** What a puppet says of a channel besides the table: limits, and rest where it is set in the document. */
function ownOf(
  puppet: Puppet,
  family: ChannelFamily,
  record: Named,
  field: string,
): { min?: number | null | undefined; max?: number | null | undefined; rest?: number | undefined } {
  if (family === 'bone' && field === 'angle') return puppet.bones[record.id]!.limits
  if (family === 'bone' && field === 'length') return puppet.bones[record.id]!.lengths
  if (family === 'puppet') return { max: puppet.views.length - 1 }
  if (family === 'constraint') return { rest: constraintRest(record as Constraint, field) }
  if (family === 'deformer') return { rest: deformerRest(record as Deformer, field) }
  if (family === 'part') return { rest: partRest(record as Part, field) }
  if (family === 'control') return rangeAlong(record as Control, field as 'value' | 'x' | 'y')
  return {}
}

/** Rest value of a part's channel that the document sets; undefined for all others. */
export const partRest = ({ opacity, visible, swap }: Part, field: string): number | undefined =>
  field === 'opacity' ? opacity : field === 'shown' ? Number(visible) : field === 'alternate' ? (swap?.initial ?? 0) : undefined

/** Rest value of a constraint's channel. */
export const constraintRest = (c: Constraint, field: string): number =>
  field === 'amount' ? c.amount : field === 'side' && c.kind === 'reach' ? c.side : 0

/** Rest value of a control along an axis. */
export const controlRest = (c: Control, axis: string): number => (axis === 'y' ? (c.up?.rest ?? 0) : c.range.rest)

/** Rest value of a deformer's channel. */
export const deformerRest = (d: Deformer, field: string): number => (field === 'on' ? Number(d.on) : d.amount)

/** Whether a thing answers to a field of its family: only limbs have a side, only paths are slid along. */
function hasField(family: ChannelFamily, record: Named, field: string): boolean {
  if (family === 'handle') return hasHandleField(record as HandleRecord, field)
  if (family === 'control') return axesOf(record as Control).some((axis) => axis === field)
  if (family === 'part') return hasPartField(record as Part, field)
  if (family !== 'constraint' || field === 'amount') return true
  return (record as Constraint).kind === (field === 'side' ? 'reach' : 'path')
}

/** Only what is masked can be without its masks, only swaps have alternates. */
const hasPartField = ({ masks, swap }: Part, field: string): boolean =>
  field === 'masked' ? masks.length > 0 : SWAP_FIELDS.has(field) ? swap !== null : true

/** What shows of a swap: an alternate, on the way from the one before. */
const SWAP_FIELDS = new Set(['alternate', 'before', 'way'])

/** Points of cages only move, those of bends have a thickness, splints do not grow. */
function hasHandleField({ deformer, id }: HandleRecord, field: string): boolean {
  if (field === 'x' || field === 'y') return true
  if (deformer.kind !== 'pins') return deformer.kind === 'bend' && field === 'scale'
  const pin = deformer.pins.find((p) => p.id === id)!
  return pin.kind === 'pin' ? pin.turns : pin.held && field === 'angle'
}

/** What an address means in this puppet, or null where nothing answers to it. Bone angles carry the bone's limits. */
export function channelOf(puppet: Puppet, address: string): Channel | null {
  const [family, id, field, extra] = address.split('/')
  if (!id || !field || extra !== undefined || !isFamily(family)) return null
  const spec = specOf(family, field)
  const record = spec && recordOf(puppet, family, id)
  if (!record || !hasField(family, record, field)) return null
  const own = ownOf(puppet, family, record, field)
  return {
    address,
    family,
    id,
    field,
    kind: spec.kind,
    rest: own.rest ?? spec.rest,
    label: spec.label,
    unit: spec.unit,
    min: own.min ?? spec.min ?? -Infinity,
    max: own.max ?? spec.max ?? Infinity,
  }
}

/** A value brought inside the channel's limits; a choice is a whole number. */
export const clampTo = ({ min, max, kind }: Pick<Channel, 'min' | 'max' | 'kind'>, value: number): number =>
  Math.min(max, Math.max(min, kind === 'choice' ? Math.round(value) : value))

/** Rest values of all fields of a family where nothing sets them otherwise, in the order of the table. */
export const restsOf = (family: ChannelFamily): number[] => Object.values<FieldSpec>(FIELDS[family]).map((spec) => spec.rest)

/** Channels of the pose that move something: all but the view. */
export const movedChannels = (puppet: Puppet): string[] => Object.keys(puppet.pose).filter((address) => address !== viewChannel(puppet))

/** Every address that a family and id can have. */
export const addressesOf = (family: ChannelFamily, id: string): string[] =>
  Object.keys(FIELDS[family]).map((field) => `${family}/${id}/${field}`)

/** Every address of a deformer and of its handles. */
export const addressesOfDeformer = (deformer: Deformer): string[] => [
  ...addressesOf('deformer', deformer.id),
  ...handlesOf(deformer).flatMap((id) => addressesOf('handle', id)),
]

/** Every address of a part and of its deformers, in all views. */
export const addressesOfPart = (part: Part): string[] => [
  ...addressesOf('part', part.id),
  ...deformersInViews(part).flatMap(addressesOfDeformer),
]

/** Tells why an address written by a person could not be resolved. */
export class ChannelError extends Error {}

/**
 * Finds the channel that a person means: by id, or by a name that only one thing of the family has. Names compare
 * without case. Throws ChannelError with a sentence when nothing or more than one thing answers.
 */
export function resolveChannel(puppet: Puppet, written: string): Channel {
  const exact = channelOf(puppet, written)
  if (exact) return exact
  const match = /^([a-z]+)\/(.+)\/([A-Za-z]+)$/.exec(written)
  const family = match?.[1]
  if (!match || !isFamily(family))
    throw new ChannelError(`"${written}" is not a channel; write bone/NAME/angle, part/NAME/x or puppet/NAME/view.`)
  const [, , name, field] = match as unknown as [string, string, string, string]
  if (!specOf(family, field)) {
    throw new ChannelError(`A ${family} has no "${field}"; it has ${Object.keys(FIELDS[family]).join(', ')}.`)
  }
  const called = recordsOf(puppet, family).filter((r) => r.name.toLowerCase() === name.toLowerCase())
  if (called.length === 0) throw new ChannelError(`No ${family} is called "${name}".`)
  if (called.length > 1) throw new ChannelError(`${called.length} ${family}s are called "${name}"; use the id of one.`)
  return channelOf(puppet, `${family}/${called[0]!.id}/${field}`)!
}
