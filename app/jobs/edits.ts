/** Edits that cross the border of a worker. */
import { COMMANDS } from '@marionette/core/puppet/commands'
import type { Edit } from '@marionette/core/kernel/command'
import { sure } from '@marionette/core/kernel/sure'

/** A command by its name with its arguments; functions do not cross. */
export interface WrittenEdit {
  readonly command: string
  readonly args: unknown
}

export const writtenEdits = (edits: readonly Edit[]): WrittenEdit[] => edits.map((e) => ({ command: e.command.name, args: e.args }))

export const editsOf = (written: readonly WrittenEdit[]): Edit[] =>
  written.map(({ command, args }) => ({ command: sure(COMMANDS.get(command)), args }))
