/** Imports a file in a process of its own and prints the peak of its memory in bytes. */
import { readFileSync } from 'node:fs'
import { freshId } from '@marionette/core/kernel/ids'
import { readPuppetFile } from '@marionette/formats/read'

readPuppetFile(new Uint8Array(readFileSync(process.argv[2]!)), 'layers.ora', { ids: freshId })
process.stdout.write(String(process.resourceUsage().maxRSS * 1024))
