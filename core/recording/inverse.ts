/**
 * Values of channels as they are seen, and as the pose has them: what controls and responses add lies between. Tools see the
 * first and write the second.
 */
import { channelOf } from '../puppet/channels'
import type { Puppet } from '../puppet/schema'
import { slotOfChannel } from '../kernel/slots'
import type { Frame } from '../puppet/frame'

/** The value of a channel as it is seen in a frame; its rest where the frame does not hold it. */
export function seenValue(frame: Frame, address: string): number {
  const channel = channelOf(frame.rig.puppet, address)
  const slot = channel ? slotOfChannel(frame.rig.slots, channel) : -1
  return slot < 0 ? (channel?.rest ?? 0) : frame.values[slot]!
}

/**
 * Values of the pose with which channels are seen to have some values, as long as nothing that answers changes with them.
 *
 * @param puppet whose pose the frame shows
 */
export function ownValues(frame: Frame, puppet: Puppet, seen: Readonly<Record<string, number>>): Record<string, number> {
  return Object.fromEntries(
    Object.entries(seen).map(([address, value]) => {
      const channel = channelOf(puppet, address)
      if (!channel || channel.kind === 'choice') return [address, value]
      const own = puppet.pose[address] ?? channel.rest
      const now = seenValue(frame, address)
      if (channel.kind !== 'scale') return [address, value - (now - own)]
      return [address, now === 0 ? value : (value * own) / now]
    }),
  )
}

/** Values of channels as they are seen in a frame, by their addresses. */
export const seenValues = (frame: Frame, addresses: readonly string[]): Record<string, number> =>
  Object.fromEntries(addresses.map((address) => [address, seenValue(frame, address)]))
