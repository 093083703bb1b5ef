/** A failure that the person at the shell can do something about: one line, exit code 2. */
export class Failure extends Error {}

/** Turns any error into its one line. */
export const lineOf = (error: unknown): string => (error instanceof Error ? error.message : String(error)).split('\n')[0]!
