/** Who of a puppet plays what: bones, controls, targets and parts by their roles, and by their names. */
import { z } from 'zod'
import { bonesInOrder } from '../bones/tree'
import { channelAddress, type Channel } from '../kernel/channel'
import { channelOf } from '../puppet/channels'
import type { Puppet } from '../puppet/schema'
import { keyOf, matchRoles } from '../roles/match'
import { wordsOf } from '../roles/words'
import { bonesByRole } from './body'
import { leadsOf } from './leads'

/** Who is moved: by role where it has one, else by name. */
export const Who = z.object({
  family: z.enum(['bone', 'control', 'target', 'part', 'layer']),
  role: z.string().max(120).nullable(),
  name: z.string().max(200),
})
export type Who = z.infer<typeof Who>

export interface Cast {
  /** Who a channel belongs to. */
  who(channel: Channel): Who | null
  /** The channel of whoever plays a part; null where nobody does. */
  find(who: Who, field: string): Channel | null
}

/** A name as it is compared: its words without regard to case, and its side. */
function plainName(name: string): string {
  const { words, side } = wordsOf(name)
  return `${words.join(' ')}:${side ?? ''}`
}

/** Bones by role: those that motions of people know first, then any that names tell. */
function rolesOfBones(puppet: Puppet): Map<string, string> {
  const out = new Map([...bonesByRole(puppet)].map(([role, bone]) => [role, bone.id as string]))
  const items = bonesInOrder(puppet).map(({ id, name, start }) => ({ id, name, within: [], x: start.x / puppet.canvas.width }))
  for (const match of matchRoles(items, { naming: puppet.naming, facing: 'left' }))
    if (match.certainty >= 0.7 && !out.has(keyOf(match)) && ![...out.values()].includes(match.id)) out.set(keyOf(match), match.id)
  return out
}

/** Finds who plays what. */
export function castOf(puppet: Puppet): Cast {
  const bones = rolesOfBones(puppet)
  const leads = new Map([...leadsOf(puppet)].map(([role, { channel }]) => [role, channel]))
  const roleOfBone = new Map([...bones].map(([role, id]) => [id, role]))
  const roleOfLead = new Map([...leads].map(([role, channel]) => [channel, role]))
  const named = {
    bone: Object.values(puppet.bones),
    control: puppet.controls,
    target: Object.values(puppet.targets),
    part: Object.values(puppet.parts),
    layer: [],
  } as const
  const byName = (family: Who['family'], name: string): string | undefined =>
    named[family].find((record) => plainName(record.name) === plainName(name))?.id
  return {
    who({ family, id, address }) {
      const record = named[family as Who['family']].find((one) => one.id === id)
      if (!record) return null
      const own = family === 'part' ? (puppet.parts[id]?.role ?? null) : null
      const role = family === 'bone' ? roleOfBone.get(id) : roleOfLead.get(address)
      return { family: family as Who['family'], role: role ?? own, name: record.name }
    },
    find({ family, role, name }, field) {
      if (family === 'control') {
        const led = role === null ? undefined : leads.get(role)
        const id = led === undefined ? byName(family, name) : undefined
        return led !== undefined ? channelOf(puppet, led) : id === undefined ? null : channelOf(puppet, channelAddress(family, id, field))
      }
      const played = role === null ? undefined : family === 'bone' ? bones.get(role) : named.part.find((part) => part.role === role)?.id
      const id = played ?? byName(family, name)
      return id === undefined ? null : channelOf(puppet, channelAddress(family, id, field))
    },
  }
}
