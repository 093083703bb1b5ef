/** What of springs can be posed and keyed: how much of their motion shows. */
import { channelAddress, type ChannelFamily } from '../kernel/channel'
import { counterpart } from '../kernel/sides'
import type { SpringGroup } from './records'

export const springChannels: ChannelFamily<SpringGroup> = {
  family: 'spring',
  fields: { amount: { kind: 'scalar', rest: 1, label: 'Spring amount', unit: '', min: 0, max: 1 } },
  moves: true,
  records: ({ springs }) => springs,
  find: ({ springs }, id) => springs.find((s) => s.id === id),
  other: ({ springs }, id) => counterpart(springs, id),
  own: ({ amount }) => ({ rest: amount }),
}

/** Address of the amount of a group. */
export const springAmount = (id: string): string => channelAddress('spring', id, 'amount')
