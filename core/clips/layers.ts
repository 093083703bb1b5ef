/** Layers of a clip: what each adds, and to what it is kept. */
import type { Channel } from '../kernel/channel'
import type { ChannelLookup } from '../kernel/command'
import type { Puppet } from '../puppet/schema'
import { clampTo } from '../kernel/channel'
import { partsOfBone } from '../binds/tree'
import { isWithinPart } from '../parts/tree'
import { readyTrack, trackValue, type CompiledTrack } from './curve'
import type { Clip, ClipLayer } from './records'
import { baseOf } from './lookup'

/** Address of the weight of a layer, which can be keyed like any channel. */
export const weightChannel = (layer: string): string => `layer/${layer}/weight`

/** Whether a layer acts on a channel: its parts hold the thing, or the bone moves something in them. A layer without a mask acts on all. */
export function actsOn(puppet: Puppet, { parts }: Pick<ClipLayer, 'parts'>, { family, id }: Pick<Channel, 'family' | 'id'>): boolean {
  if (parts === null) return true
  const isInside = (part: string): boolean => parts.some((p) => puppet.parts[p] && isWithinPart(puppet, part, p))
  if (family === 'part') return isInside(id)
  return family === 'bone' && partsOfBone(puppet, id).some(({ id: part }) => isInside(part))
}

/** A track with what its channel is, ready to be asked. */
interface ReadyTrack {
  readonly channel: Channel
  readonly track: CompiledTrack
  /** Where the channel stands in a pose array; -1 for one that moves nothing by itself. */
  readonly slot: number
}

interface ReadyLayer {
  readonly mode: ClipLayer['mode']
  /** Its weight: a track, or one number for all of time. */
  readonly weight: CompiledTrack | number
  readonly tracks: readonly ReadyTrack[]
}

/** A clip with everything that does not depend on time looked up. */
export interface ReadyClip {
  /** Seconds that each picture is held. */
  readonly held: number
  readonly layers: readonly ReadyLayer[]
}

/** What a clip is made ready with: what an address means, and where it stands in a pose array. */
export interface ReadyFor {
  readonly channelOf: ChannelLookup
  readonly slotOf: (channel: Channel) => number
}

/** Looks up what the tracks of a clip move; what is muted, masked out or gone is left out. */
export function readyClip(puppet: Puppet, clip: Clip, { channelOf, slotOf }: ReadyFor): ReadyClip {
  const base = baseOf(clip)
  const layers = clip.layers.flatMap((layer): ReadyLayer[] => {
    if (layer.muted) return []
    const keyed = base.tracks[weightChannel(layer.id)]
    const tracks = Object.entries(layer.tracks).flatMap(([address, track]): ReadyTrack[] => {
      const channel = channelOf(puppet, address)
      if (!channel || channel.family === 'layer' || !actsOn(puppet, layer, channel)) return []
      return [{ channel, track: readyTrack(track, channel.kind === 'choice'), slot: slotOf(channel) }]
    })
    if (layer === base) return [{ mode: 'override', weight: 1, tracks }]
    return [{ mode: layer.mode, weight: keyed ? readyTrack(keyed) : layer.weight, tracks }]
  })
  return { held: clip.step > 1 ? clip.step / clip.rate : 0, layers }
}

/** The time of the picture that is held at a time. */
const heldTime = (held: number, time: number): number => (held === 0 ? time : Math.floor(time / held + 1e-9) * held)

const shareOf = ({ weight }: ReadyLayer, time: number): number =>
  typeof weight === 'number' ? weight : Math.min(1, Math.max(0, trackValue(weight, time)))

/**
 * What a layer makes of the value below it. Choices go over half way; what multiplies is added by multiplying.
 *
 * @param share how much of the layer shows, 0 to 1
 */
export function layered(channel: Channel, mode: ClipLayer['mode'], below: number, value: number, share: number): number {
  if (channel.kind === 'choice') return share >= 0.5 ? value : below
  if (mode === 'override') return below + share * (value - below)
  if (channel.kind === 'scale' && channel.rest > 0 && value > 0) return below * (value / channel.rest) ** share
  return below + share * (value - channel.rest)
}

/**
 * Values of all channels that a clip moves, at a time. Depends on the time alone, in whatever order moments are asked for.
 *
 * @returns values by address, within the limits of their channels
 */
export function clipValues({ layers, held }: ReadyClip, at: number): Record<string, number> {
  const time = heldTime(held, at)
  const out: Record<string, number> = {}
  for (const layer of layers) {
    const share = shareOf(layer, time)
    if (share === 0) continue
    for (const { channel, track } of layer.tracks) {
      const below = out[channel.address] ?? channel.rest
      out[channel.address] = clampTo(channel, layered(channel, layer.mode, below, trackValue(track, time), share))
    }
  }
  return out
}

/**
 * Writes what a clip shows at a time over a pose, without allocating.
 *
 * @param pose [n] values of channels by their slots; where the clip says nothing they stay
 */
export function writeClip({ layers, held }: ReadyClip, at: number, pose: Float64Array): void {
  const time = heldTime(held, at)
  for (let l = 0; l < layers.length; l++) {
    const layer = layers[l]!
    const share = shareOf(layer, time)
    if (share === 0) continue
    const { tracks, mode } = layer
    for (let k = 0; k < tracks.length; k++) {
      const { channel, track, slot } = tracks[k]!
      if (slot >= 0) pose[slot] = clampTo(channel, layered(channel, mode, pose[slot]!, trackValue(track, time), share))
    }
  }
}
