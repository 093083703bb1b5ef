/** Skeletons: many bones made and set at once, with what is tied to them. */
import type { Capability } from '../kernel/capability'
import * as commands from './commands'
import * as lines from './lines'

/** What whole skeletons can do beside single bones. */
export const skeleton: Capability = { name: 'skeleton', commands: [commands, lines] }
