/** The command line as a process. */
import { rig } from './rig'

process.exitCode = await rig(process.argv.slice(2), {
  out: (text) => void process.stdout.write(`${text}\n`),
  err: (text) => void process.stderr.write(`${text}\n`),
})
