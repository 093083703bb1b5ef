/** A failure that the person at the shell can do something about: one line, exit code 2. */
import { nth } from '@marionette/core/kernel/sure'
export class Failure extends Error {}

/** Turns any error into its one line. */
export const lineOf = (error: unknown): string => nth((error instanceof Error ? error.message : String(error)).split('\n'), 0)

/** Several inputs failed, each with its line; the others were done. */
export class Failures extends Error {
  constructor(readonly lines: readonly string[]) {
    super(lines[0])
  }
}

/** The lines of any error. */
export const linesOf = (error: unknown): readonly string[] => (error instanceof Failures ? error.lines : [lineOf(error)])
