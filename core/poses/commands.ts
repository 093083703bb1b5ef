/** Commands on the pose: what the stage shows, never the rest. */
import { z } from 'zod'
import { ChannelAddress } from '../kernel/ids'
import { finite } from '../kernel/numbers'
import { clampTo } from '../kernel/channel'
import { viewChannel } from '../views/channels'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'

/** Sets channels, clamped to their limits; a value at rest is not kept. */
export const setPose = command(
  'pose.set',
  'Pose',
  z.object({ values: z.record(ChannelAddress, finite) }),
  (puppet, { values }, { channelOf }) => {
    for (const [address, value] of Object.entries(values)) {
      const channel = channelOf(puppet, address)
      if (!channel) throw new EditError(`Nothing in this puppet answers to "${address}".`)
      const clamped = clampTo(channel, value)
      if (clamped === channel.rest) delete puppet.pose[address]
      else puppet.pose[address] = clamped
    }
  },
)

/** Brings channels back to rest; without a list, all that move something. The shown view stays. */
export const resetPose = command(
  'pose.reset',
  'Back to rest',
  z.object({ channels: z.array(ChannelAddress).nullable() }),
  (puppet, { channels }) => {
    const view = viewChannel(puppet)
    for (const address of channels ?? Object.keys(puppet.pose).filter((a) => a !== view)) delete puppet.pose[address]
  },
)
