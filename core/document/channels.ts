/**
 * Channels: everything that can be posed. One table maps each address (`family/id/field`) to how its values
 * combine, its rest value, its limits and its label; poses, the command line and the interface all go through it.
 */
import type { Puppet } from './schema'

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

const FIELDS = {
  bone: {
    angle: { kind: 'angle', rest: 0, label: 'Angle', unit: '°' },
    x: { kind: 'scalar', rest: 0, label: 'Moved x', unit: 'px' },
    y: { kind: 'scalar', rest: 0, label: 'Moved y', unit: 'px' },
  },
  part: {
    x: { kind: 'scalar', rest: 0, label: 'Moved x', unit: 'px' },
    y: { kind: 'scalar', rest: 0, label: 'Moved y', unit: 'px' },
    angle: { kind: 'angle', rest: 0, label: 'Turned', unit: '°' },
    scaleX: { kind: 'scale', rest: 1, label: 'Scale x', unit: '' },
    scaleY: { kind: 'scale', rest: 1, label: 'Scale y', unit: '' },
    opacity: { kind: 'scale', rest: 1, label: 'Opacity', unit: '', min: 0, max: 1 },
  },
  puppet: {
    view: { kind: 'choice', rest: 0, label: 'View', unit: '', min: 0 },
  },
} as const satisfies Record<string, Record<string, FieldSpec>>

export type ChannelFamily = keyof typeof FIELDS
export type BoneField = keyof (typeof FIELDS)['bone']
export type PartField = keyof (typeof FIELDS)['part']

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

/** Fields of a family in the order in which a rig stores them. */
export const BONE_FIELDS = Object.keys(FIELDS.bone) as BoneField[]
export const PART_FIELDS = Object.keys(FIELDS.part) as PartField[]

export const boneChannel = (id: string, field: BoneField): string => `bone/${id}/${field}`
/** The channel of the shown view: its place in the puppet's list of views. */
export const viewChannel = (puppet: Puppet): string => `puppet/${puppet.id}/view`
export const partChannel = (id: string, field: PartField): string => `part/${id}/${field}`

/** Rest value of a field. */
export const restOf = (family: ChannelFamily, field: string): number => specOf(family, field)?.rest ?? 0

function specOf(family: ChannelFamily, field: string): FieldSpec | undefined {
  const fields: Record<string, FieldSpec> = FIELDS[family]
  return Object.hasOwn(fields, field) ? fields[field] : undefined
}

/** Whatever has channels of a family. */
const recordsOf = (puppet: Puppet, family: ChannelFamily): Record<string, { id: string; name: string }> =>
  family === 'bone' ? puppet.bones : family === 'part' ? puppet.parts : { [puppet.id]: puppet }

const isFamily = (family: string | undefined): family is ChannelFamily => family !== undefined && Object.hasOwn(FIELDS, family)

/** Limits that this puppet sets to a channel. */
function limitsOf(puppet: Puppet, family: ChannelFamily, id: string, field: string): { min: number | null; max: number | null } {
  if (family === 'bone' && field === 'angle') return puppet.bones[id]!.limits
  return { min: null, max: family === 'puppet' && field === 'view' ? puppet.views.length - 1 : null }
}

/** What an address means in this puppet, or null where nothing answers to it. Bone angles carry the bone's limits. */
export function channelOf(puppet: Puppet, address: string): Channel | null {
  const [family, id, field, extra] = address.split('/')
  if (!id || !field || extra !== undefined || !isFamily(family)) return null
  const spec = specOf(family, field)
  if (!spec || !Object.hasOwn(recordsOf(puppet, family), id)) return null
  const limits = limitsOf(puppet, family, id, field)
  return {
    address,
    family,
    id,
    field,
    kind: spec.kind,
    rest: spec.rest,
    label: spec.label,
    unit: spec.unit,
    min: limits.min ?? spec.min ?? -Infinity,
    max: limits.max ?? spec.max ?? Infinity,
  }
}

/** A value brought inside the channel's limits; a choice is a whole number. */
export const clampTo = (channel: Channel, value: number): number =>
  Math.min(channel.max, Math.max(channel.min, channel.kind === 'choice' ? Math.round(value) : value))

/** Channels of the pose that move something: all but the view. */
export const movedChannels = (puppet: Puppet): string[] => Object.keys(puppet.pose).filter((address) => address !== viewChannel(puppet))

/** Every address that a family and id can have. */
export const addressesOf = (family: ChannelFamily, id: string): string[] =>
  Object.keys(FIELDS[family]).map((field) => `${family}/${id}/${field}`)

/** Tells why an address written by a person could not be resolved. */
export class ChannelError extends Error {}

/**
 * Finds the channel that a person means: by id, or by a name that only one bone or part has. Names compare
 * without case. Throws ChannelError with a sentence when nothing or more than one thing answers.
 */
export function resolveChannel(puppet: Puppet, written: string): Channel {
  const exact = channelOf(puppet, written)
  if (exact) return exact
  const match = /^(bone|part|puppet)\/(.+)\/([A-Za-z]+)$/.exec(written)
  if (!match) throw new ChannelError(`"${written}" is not a channel; write bone/NAME/angle, part/NAME/x or puppet/NAME/view.`)
  const [, family, name, field] = match as unknown as [string, ChannelFamily, string, string]
  if (!specOf(family, field)) {
    throw new ChannelError(`A ${family} has no "${field}"; it has ${Object.keys(FIELDS[family]).join(', ')}.`)
  }
  const records = Object.values(recordsOf(puppet, family))
  const called = records.filter((r) => r.name.toLowerCase() === name.toLowerCase())
  if (called.length === 0) throw new ChannelError(`No ${family} is called "${name}".`)
  if (called.length > 1) throw new ChannelError(`${called.length} ${family}s are called "${name}"; use the id of one.`)
  return channelOf(puppet, `${family}/${called[0]!.id}/${field}`)!
}
