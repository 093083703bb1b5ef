/** What stands around a puppet. */
import type { Capability } from '../kernel/capability'
import * as commands from './commands'

/** What staging adds to a puppet. */
export const staging: Capability = { name: 'staging', commands: [commands] }
