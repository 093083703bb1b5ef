/** What of strides can be posed and keyed: their pace, and how much of them shows. */
import { channelAddress, type ChannelFamily } from '../kernel/channel'
import type { Stride } from './records'

export const strideChannels: ChannelFamily<Stride> = {
  family: 'stride',
  fields: {
    speed: { kind: 'scalar', rest: 0, label: 'Pace', unit: '', min: -3, max: 3 },
    amount: { kind: 'scalar', rest: 1, label: 'Stride amount', unit: '', min: 0, max: 1 },
  },
  moves: true,
  records: ({ strides }) => strides,
  find: ({ strides }, id) => strides.find((s) => s.id === id),
  own: ({ speed, amount }, field) => ({ rest: field === 'speed' ? speed : amount }),
}

/** Address of the pace of a stride: 1 is as it is set, 0 stands. */
export const strideSpeed = (id: string): string => channelAddress('stride', id, 'speed')

/** Address of how much of a stride shows. */
export const strideAmount = (id: string): string => channelAddress('stride', id, 'amount')
