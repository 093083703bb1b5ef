/** Roles of parts, and names that say a side. */
import type { Capability } from '../kernel/capability'
import * as commands from './commands'

/** What roles add to a puppet. */
export const roles: Capability = { name: 'roles', commands: [commands] }
