/** Controls: sliders, dials, pads, toggles and levers, and what they drive. */
import type { Capability } from '../kernel/capability'
import { listedKind, type Reference } from '../kernel/records'
import { controlChannels } from './channels'
import * as commands from './commands'

const AT = 'controls/*'

const references: Reference[] = [
  { at: `${AT}/bone`, to: 'bone', says: 'is', gone: { drop: AT } },
  { at: `${AT}/place/part`, to: 'part', says: 'is pinned to', gone: { replace: `${AT}/place`, by: { on: 'shelf' } } },
  { at: `${AT}/place/clip`, to: 'clip', says: 'serves', gone: { drop: AT } },
  { at: `${AT}/ties/*/channel`, to: 'channel', says: 'names', gone: { drop: `${AT}/ties/*` } },
]

/** What controls add to a puppet. */
export const controls: Capability = {
  name: 'controls',
  kinds: [listedKind('control', 'control', 'controls')],
  references,
  channels: [controlChannels],
  commands: [commands],
}
