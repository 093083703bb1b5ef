/** How often a property is tried: some tries with every change, many in the long run. */
export const often = (tries: number, inTheLongRun: number): number => (process.env['LONG_RUNS'] === undefined ? tries : inTheLongRun)
