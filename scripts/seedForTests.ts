/**
 * Properties are tried with the same arguments every time, so that a change is judged by what it changes; new arguments are looked for in
 * the long run, and what fails there prints the seed that it had.
 */
import fc from 'fast-check'

if (process.env['LONG_RUNS'] === undefined) fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: 20_260_101 })
