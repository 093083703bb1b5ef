/**
 * The channels of a puppet: families of all capabilities together. Poses, the command line and the interface go through these
 * questions, and none of them knows what has channels.
 */
import { channelAddress, type Channel, type ChannelFamily, type FieldSpec, type Named } from '../kernel/channel'
import { CAPABILITIES } from './capabilities'
import type { Puppet } from './schema'
import { nth } from '../kernel/sure'

/** A family with the capability that each of its fields comes from. */
interface Family {
  readonly first: ChannelFamily
  readonly fields: ReadonlyMap<string, { readonly spec: FieldSpec; readonly from: ChannelFamily }>
}

function joined(list: readonly ChannelFamily[]): ReadonlyMap<string, Family> {
  const out = new Map<string, { first: ChannelFamily; fields: Map<string, { spec: FieldSpec; from: ChannelFamily }> }>()
  for (const from of list) {
    const family = out.get(from.family) ?? { first: from, fields: new Map() }
    out.set(from.family, family)
    for (const [field, spec] of Object.entries(from.fields)) family.fields.set(field, { spec, from })
  }
  return out
}

/** Families by name, in the order in which a rig stores them. */
export const FAMILIES = joined(CAPABILITIES.flatMap((c) => c.channels ?? []))

/** What the own table of a family says of a field, and the puppet besides. */
function channelIn(puppet: Puppet, family: Family, record: Named, field: string): Omit<Channel, 'address'> | null {
  const known = family.fields.get(field)
  if (!known) return null
  const { spec, from } = known
  if (from.has && !from.has(record, field)) return null
  const own = from.own?.(record, field, puppet) ?? {}
  return {
    family: from.family,
    id: record.id,
    field,
    kind: spec.kind,
    rest: own.rest ?? spec.rest,
    label: spec.label,
    unit: spec.unit,
    min: own.min ?? spec.min ?? -Infinity,
    max: own.max ?? spec.max ?? Infinity,
  }
}

/** What an address means in this puppet, or null where nothing answers to it. Bone angles carry the bone's limits. */
export function channelOf(puppet: Puppet, address: string): Channel | null {
  const [name = '', id, field, extra] = address.split('/')
  const family = FAMILIES.get(name)
  if (!family || !id || !field || extra !== undefined) return null
  const record = family.first.find(puppet, id)
  const found = record && channelIn(puppet, family, record, field)
  return found ? { address, ...found } : null
}

/** Every address that a family and id can have. */
export const addressesOf = (family: string, id: string): string[] =>
  [...(FAMILIES.get(family)?.fields.keys() ?? [])].map((field) => channelAddress(family, id, field))

/** Channels of the pose that move something: all but the view. */
export const movedChannels = (puppet: Puppet): string[] =>
  Object.keys(puppet.pose).filter((address) => FAMILIES.get(nth(address.split('/'), 0))?.first.moves !== false)

/** Tells why an address written by a person could not be resolved. */
export class ChannelError extends Error {}

/**
 * Finds the channel that a person means: by id, or by a name that only one thing of the family has. Names compare
 * without case. Throws ChannelError with a sentence when nothing or more than one thing answers.
 */
export function resolveChannel(puppet: Puppet, written: string): Channel {
  const exact = channelOf(puppet, written)
  if (exact) return exact
  const [, family = '', name = '', field = ''] = /^([a-z]+)\/(.+)\/([A-Za-z]+)$/.exec(written) ?? []
  const known = FAMILIES.get(family)
  if (!known) throw new ChannelError(`"${written}" is not a channel; write bone/NAME/angle, part/NAME/x or puppet/NAME/view.`)
  if (!known.fields.has(field)) throw new ChannelError(`A ${family} has no "${field}"; it has ${[...known.fields.keys()].join(', ')}.`)
  const called = known.first.records(puppet).filter((r) => r.name.toLowerCase() === name.toLowerCase())
  const [only] = called
  if (!only) throw new ChannelError(`No ${family} is called "${name}".`)
  if (called.length > 1) throw new ChannelError(`${called.length} ${family}s are called "${name}"; use the id of one.`)
  const found = channelIn(puppet, known, only, field)
  if (!found) throw new ChannelError(`"${only.name}" has no "${field}".`)
  return { address: channelAddress(family, only.id, field), ...found }
}
