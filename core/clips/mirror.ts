/** Mirror images of clips: left and right swapped, all at the same time. */
import type { Host } from '../kernel/command'
import { mirroredValue } from '../kernel/mirrored'
import type { Puppet } from '../puppet/schema'
import type { Clip, Key, Track } from './records'

type Sides = Pick<Host, 'otherAddress' | 'mirrorSign' | 'channelOf'>

/** A value of a channel on the other side. */
export const valueOnOtherSide = (puppet: Puppet, address: string, value: number, { mirrorSign, channelOf }: Sides): number =>
  mirroredValue(value, mirrorSign(puppet, address), channelOf(puppet, address)?.rest ?? 0)

/** A key on the other side; its handles turn round with the value. */
export function mirroredKey(puppet: Puppet, address: string, key: Key, sides: Sides): Key {
  const value = valueOnOtherSide(puppet, address, key.value, sides)
  if (!key.handles || sides.mirrorSign(puppet, address) === 1) return { ...key, value }
  const { arrive, leave, aligned } = key.handles
  return { ...key, value, handles: { arrive: [arrive[0], -arrive[1]], leave: [leave[0], -leave[1]], aligned } }
}

/** The mirror image of a clip. */
export function mirroredClip(puppet: Puppet, clip: Clip, sides: Sides): Clip {
  const image = (address: string, track: Track): [string, Track] => [
    sides.otherAddress(puppet, address),
    { ...track, keys: track.keys.map((key) => mirroredKey(puppet, address, key, sides)) },
  ]
  return {
    ...clip,
    layers: clip.layers.map((layer) => ({
      ...layer,
      tracks: Object.fromEntries(Object.entries(layer.tracks).map(([address, track]) => image(address, track))),
    })),
    loose: Object.fromEntries(
      Object.entries(clip.loose).map(([address, value]) => [
        sides.otherAddress(puppet, address),
        valueOnOtherSide(puppet, address, value, sides),
      ]),
    ),
  }
}
