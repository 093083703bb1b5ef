/** What of idle life can be posed and keyed: how much of it shows. */
import type { ChannelFamily } from '../kernel/channel'
import type { Idle } from './records'

export const idleChannels: ChannelFamily<Idle> = {
  family: 'idle',
  fields: { amount: { kind: 'scalar', rest: 1, label: 'Idle amount', unit: '', min: 0, max: 1 } },
  moves: true,
  records: ({ idles }) => idles,
  find: ({ idles }, id) => idles.find((s) => s.id === id),
  own: ({ amount }) => ({ rest: amount }),
}
