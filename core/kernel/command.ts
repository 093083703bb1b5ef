/**
 * Commands: the only way in which a puppet changes.
 *
 * A command is a pure function of a puppet and a checked argument object; it changes a draft in place or refuses with a sentence
 * for people.
 */
import type { z } from 'zod'
import type { Puppet } from '../puppet/schema'
import type { Channel } from './channel'
import type { CopyAlong, CopyInside } from './copying'

/** What an address means in a puppet, or null where nothing answers to it. */
export type ChannelLookup = (puppet: Puppet, address: string) => Channel | null

/** Questions that only all capabilities together can answer. */
export interface Host {
  readonly channelOf: ChannelLookup
  /** The address on the other side; the same where there is none. */
  readonly otherAddress: (puppet: Puppet, address: string) => string
  /** 1 for a channel that is the same on the other side, -1 for one that goes the other way. */
  readonly mirrorSign: (puppet: Puppet, address: string) => 1 | -1
  /** Copies what hangs on what is copied. */
  readonly copyAlong: CopyAlong
  /** A copied part with all that it names, and what is inside of it, on the copy's side. */
  readonly copiedPart: CopyInside
}

/** Something that can be done to a puppet: a name, arguments, and the change. */
export interface Command<Args = unknown> {
  readonly name: string
  /** Sentence-case label for history and command search. */
  readonly label: string
  readonly schema: z.ZodType<Args>
  /** Changes the draft in place; throws EditError to refuse. */
  readonly apply: (draft: Puppet, args: Args, host: Host) => void
}

/** Makes a command. */
export function command<Args>(name: string, label: string, schema: z.ZodType<Args>, apply: Command<Args>['apply']): Command<Args> {
  return { name, label, schema, apply }
}

/** A command with its arguments, not yet applied: plain data. */
export interface Edit<Args = unknown> {
  readonly command: Command<Args>
  readonly args: Args
}

/** Pairs a command with arguments; the type of the arguments is checked here. */
export const edit = <Args>(what: Command<Args>, args: NoInfer<Args>): Edit => ({ command: what, args }) as Edit
