/** How parts are laid over what lies below them: masks, blend modes, effects. */
import type { Capability } from '../kernel/capability'
import { maskChannels } from './channels'
import { layeringChecks } from './checks'
import * as commands from './commands'

/** What masks, seams, blending and effects add to a puppet. */
export const layering: Capability = {
  name: 'layering',
  references: [{ at: 'parts/*/masks/*/shape', to: 'part', says: 'is masked by', gone: { drop: 'parts/*/masks/*' } }],
  checks: layeringChecks,
  channels: [maskChannels],
  commands: [commands],
}
