/** The shown view as a channel: its place in the puppet's list of views. */
import { channelAddress, type ChannelFamily } from '../kernel/channel'
import type { Puppet } from '../puppet/schema'

/** The channel that says which view shows. */
export const viewChannels: ChannelFamily<Puppet> = {
  family: 'puppet',
  fields: { view: { kind: 'choice', rest: 0, label: 'View', unit: '', min: 0 } },
  moves: false,
  records: (puppet) => [puppet],
  find: (puppet, id) => (puppet.id === id ? puppet : undefined),
  own: ({ views }) => ({ max: views.length - 1 }),
}

/** Address of the shown view. */
export const viewChannel = ({ id }: Pick<Puppet, 'id'>): string => channelAddress('puppet', id, 'view')
