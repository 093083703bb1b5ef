/** What stands around a puppet. */
import type { Capability } from '../kernel/capability'
import { cameraChannels } from './channels'
import * as commands from './commands'

/** What staging adds to a puppet. */
export const staging: Capability = {
  name: 'staging',
  references: [{ at: 'stage/scenery/*/part', to: 'part', says: 'shows', gone: { drop: 'stage/scenery/*' } }],
  channels: [cameraChannels],
  commands: [commands],
}
