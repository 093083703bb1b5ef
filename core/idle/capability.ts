/** Idle life: breath, shifts of weight, glances and blinks. */
import type { Capability } from '../kernel/capability'
import { listedKind, type Reference } from '../kernel/records'
import { idleChannels } from './channels'
import * as commands from './commands'

const cleared = (at: string, to: 'bone' | 'channel', says: string): Reference => ({
  ...{ at: `idles/*/${at}`, to, says },
  gone: { clear: `idles/*/${at}` },
})

const references: Reference[] = [
  cleared('breath/chest', 'bone', 'breathes with'),
  cleared('breath/belly', 'bone', 'breathes with'),
  { at: 'idles/*/breath/shoulders/*', to: 'bone', says: 'lifts', gone: { drop: 'idles/*/breath/shoulders/*' } },
  cleared('blink/channel', 'channel', 'blinks by'),
  cleared('glance/x', 'channel', 'glances by'),
  cleared('glance/y', 'channel', 'glances by'),
]

/** What idle life adds to a puppet. */
export const idle: Capability = {
  name: 'idle',
  kinds: [listedKind('idle', 'idle life', 'idles')],
  references,
  channels: [idleChannels],
  commands: [commands],
}
