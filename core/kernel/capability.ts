/**
 * A capability: one thing that a puppet can do, with all that belongs to it. What everything shares loops over the list of them
 * (puppet/capabilities.ts) and knows none by name.
 */
import type { ChannelFamily } from './channel'
import type { Command } from './command'
import type { Inspect } from './finding'
import type { CopyAlong, CopyInside } from './copying'
import type { Check, RecordKind, Reference, Repair } from './records'

/** What a capability adds to a puppet: one line in the table of capabilities. */
export interface Capability {
  readonly name: string
  /** Things with ids that it brings. */
  readonly kinds?: readonly RecordKind[]
  /** Where it names things, its own and others. */
  readonly references?: readonly Reference[]
  /** What must hold besides. */
  readonly checks?: readonly Check[]
  /** What follows from an edit besides. */
  readonly repairs?: readonly Repair[]
  /** What goes along when parts and bones are copied. */
  readonly copyAlong?: CopyAlong
  /** What of a part has ids of its own, in a copy of it. */
  readonly copyInside?: CopyInside
  /** What of its things can be posed. */
  readonly channels?: readonly ChannelFamily[]
  /** What a rigger should look at. */
  readonly findings?: readonly Inspect[]
  /** What can be done with them: modules of which every command counts. */
  readonly commands?: readonly Readonly<Record<string, unknown>>[]
}

const isCommand = (value: unknown): value is Command => typeof value === 'object' && value !== null && 'apply' in value && 'schema' in value

/** Commands of a capability by their names. */
export const commandsOf = ({ commands = [] }: Capability): Command[] =>
  commands.flatMap((module) => Object.values(module).filter(isCommand))
