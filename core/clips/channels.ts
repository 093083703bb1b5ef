/** What of clips can be keyed itself: how much of a layer shows. */
import type { ChannelFamily } from '../kernel/channel'
import type { ClipLayer } from './records'

/** Weights of the layers of all clips. They move nothing by themselves, so that a rig has no place for them. */
export const layerChannels: ChannelFamily<ClipLayer> = {
  family: 'layer',
  fields: { weight: { kind: 'scalar', rest: 1, label: 'Weight', unit: '', min: 0, max: 1 } },
  moves: false,
  records: ({ clips }) => clips.flatMap((clip) => clip.layers),
  find: ({ clips }, id) => clips.flatMap((clip) => clip.layers).find((layer) => layer.id === id),
  own: (layer) => ({ rest: layer.weight }),
}
