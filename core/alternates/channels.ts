/** What shows of a swap: an alternate, on the way from the one before. */
import type { ChannelFamily } from '../kernel/channel'
import { partChannels } from '../parts/channels'
import type { Part } from '../puppet/schema'

/** Only swaps have alternates. */
export const swapChannels: ChannelFamily<Part> = {
  ...partChannels,
  fields: {
    alternate: { kind: 'choice', rest: 0, label: 'Alternate', unit: '', min: 0 },
    before: { kind: 'choice', rest: 0, label: 'Alternate before', unit: '', min: 0 },
    way: { kind: 'scalar', rest: 1, label: 'Way from it', unit: '', min: 0, max: 1 },
  },
  has: ({ swap }) => swap !== null,
  own: ({ swap }, field) => (field === 'alternate' ? { rest: swap?.initial ?? 0 } : {}),
}
