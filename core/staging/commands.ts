/** Commands on what stands around a puppet. */
import { z } from 'zod'
import { command } from '../kernel/command'
import { Shadow } from './records'

/** Puts on a shadow, changes it, or takes it off. */
export const setShadow = command('staging.shadow', 'Change shadow', z.object({ shadow: Shadow.nullable() }), (puppet, { shadow }) => {
  puppet.shadow = shadow
})
