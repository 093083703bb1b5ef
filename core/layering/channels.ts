/** What of a part's masks can be posed. */
import type { ChannelFamily } from '../kernel/channel'
import { partChannels } from '../parts/channels'
import type { Part } from '../puppet/schema'

/** Only what is masked can be without its masks. */
export const maskChannels: ChannelFamily<Part> = {
  ...partChannels,
  fields: { masked: { kind: 'choice', rest: 1, label: 'Masked', unit: '', min: 0, max: 1 } },
  has: ({ masks }) => masks.length > 0,
  own: () => ({}),
}
