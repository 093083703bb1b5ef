/** What of parts can be posed. */
import { channelAddress, filed, MOVED, TURNED, type ChannelFamily } from '../kernel/channel'
import type { Part } from '../puppet/schema'
import { otherPart, partSign } from './mirror'
import { partsBelow } from './tree'

const FIELDS = {
  ...MOVED,
  angle: TURNED,
  scaleX: { kind: 'scale', rest: 1, label: 'Scale x', unit: '' },
  scaleY: { kind: 'scale', rest: 1, label: 'Scale y', unit: '' },
  opacity: { kind: 'scalar', rest: 1, label: 'Opacity', unit: '', min: 0, max: 1 },
  shown: { kind: 'choice', rest: 1, label: 'Shown', unit: '', min: 0, max: 1 },
  order: { kind: 'choice', rest: 0, label: 'To the front', unit: '' },
} as const

/** Fields of parts, those that other capabilities add included. */
export type PartField = keyof typeof FIELDS | 'masked' | 'alternate' | 'before' | 'way'

/** Channels of parts. */
export const partChannels: ChannelFamily<Part> = {
  family: 'part',
  fields: FIELDS,
  moves: true,
  records: (puppet) => partsBelow(puppet, puppet.root),
  find: ({ parts }, id) => filed(parts, id),
  other: otherPart,
  turns: (puppet, id, field) => partSign(puppet, id, field) < 0,
  own: ({ opacity, visible }, field) => (field === 'opacity' ? { rest: opacity } : field === 'shown' ? { rest: Number(visible) } : {}),
}

/** Address of a channel of a part. */
export const partChannel = (id: string, field: PartField): string => channelAddress('part', id, field)

/** Where a field stands among the own fields of a part, which come first. */
export const partFieldAt = (field: keyof typeof FIELDS): number => Object.keys(FIELDS).indexOf(field)
