/** Commands on the pose: what the stage shows, never the rest. */
import { z } from 'zod'
import { ChannelAddress } from '../document/ids'
import { finite } from '../document/basics'
import { channelOf, clampTo, movedChannels } from '../document/channels'
import { command, EditError } from './command'

/** Sets channels, clamped to their limits; a value at rest is not kept. */
export const setPose = command('pose.set', 'Pose', z.object({ values: z.record(ChannelAddress, finite) }), (puppet, { values }) => {
  for (const [address, value] of Object.entries(values)) {
    const channel = channelOf(puppet, address)
    if (!channel) throw new EditError(`Nothing in this puppet answers to "${address}".`)
    const clamped = clampTo(channel, value)
    if (clamped === channel.rest) delete puppet.pose[address]
    else puppet.pose[address] = clamped
  }
})

/** Brings channels back to rest; without a list, all that move something. The shown view stays. */
export const resetPose = command(
  'pose.reset',
  'Back to rest',
  z.object({ channels: z.array(ChannelAddress).nullable() }),
  (puppet, { channels }) => {
    for (const address of channels ?? movedChannels(puppet)) delete puppet.pose[address]
  },
)
