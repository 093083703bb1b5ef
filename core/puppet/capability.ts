/** The puppet as a whole: its name, canvas, guides and notes. */
import type { Capability } from '../kernel/capability'
import * as artwork from './artworkCommands'
import * as commands from './puppetCommands'

/** What the puppet itself can do: names, canvas, guides, notes. */
export const puppet: Capability = { name: 'puppet', commands: [commands, artwork] }
