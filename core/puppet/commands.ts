/** The one list of what can be done to a puppet. */
import { commandsOf } from '../kernel/capability'
import type { Command } from '../kernel/command'
import { CAPABILITIES } from './capabilities'

/** Every command by its name. */
export const COMMANDS: ReadonlyMap<string, Command> = new Map(CAPABILITIES.flatMap(commandsOf).map((c) => [c.name, c] as const))
