/** What of targets and constraints can be posed. */
import { channelAddress, filed, MOVED, TURNED, type ChannelFamily } from '../kernel/channel'
import { counterpart } from '../kernel/sides'
import type { Constraint, Target } from './records'

/** Channels of targets: shifts in px, an angle in degrees. */
export const targetChannels: ChannelFamily<Target> = {
  family: 'target',
  fields: { ...MOVED, angle: TURNED },
  moves: true,
  records: ({ targets }) => Object.values(targets),
  find: ({ targets }, id) => filed(targets, id),
  other: ({ targets }, id) => counterpart(Object.values(targets), id),
  turns: (_, __, field) => field === 'angle' || field === 'x',
}

/** Only limbs have a side, only paths are slid along. */
export const constraintChannels: ChannelFamily<Constraint> = {
  family: 'constraint',
  fields: {
    amount: { kind: 'scalar', rest: 1, label: 'Amount', unit: '', min: 0, max: 1 },
    side: { kind: 'choice', rest: 0, label: 'Bend side', unit: '', min: -1, max: 1 },
    along: { kind: 'scalar', rest: 0, label: 'Along the path', unit: 'px' },
  },
  moves: true,
  records: ({ constraints }) => constraints,
  find: ({ constraints }, id) => constraints.find((c) => c.id === id),
  other: ({ constraints }, id) => counterpart(constraints, id),
  turns: (_, __, field) => field === 'side',
  has: ({ kind }, field) => field === 'amount' || kind === (field === 'side' ? 'reach' : 'path'),
  own: (c, field) => ({ rest: field === 'amount' ? c.amount : field === 'side' && c.kind === 'reach' ? c.side : 0 }),
}

/** Every address of a target, and of a constraint. */
export const targetAddresses = (id: string): string[] =>
  Object.keys(targetChannels.fields).map((field) => channelAddress('target', id, field))

/** Every address of a constraint. */
export const constraintAddresses = (id: string): string[] =>
  Object.keys(constraintChannels.fields).map((field) => channelAddress('constraint', id, field))
