/** Tries damaged or grown files of all formats in this process, and tells of each whether it behaved. */
import { readFileSync } from 'node:fs'
import { strToU8 } from 'fflate'
import { armPuppet } from '@marionette/core/test/puppets'
import { writeArchive } from '../../archive/archive'
import { encodePng } from '../../pixels'
import { readPuppetFile } from '../../read'
import { readWav } from '../../sound/wav'
import { FormatError } from '../../warnings'
import { damagedOnes } from './damage'
import { grownFiles } from './files'

/** Longest and largest that a file may be worked on, ms and bytes. */
const LONGEST = 5000
const LARGEST = 1024 ** 3

function attempt(name: string, bytes: Uint8Array): string {
  const start = performance.now()
  try {
    if (name.endsWith('.wav')) readWav(bytes, name)
    else readPuppetFile(bytes, name)
  } catch (error) {
    if (!(error instanceof FormatError)) return `threw ${(error as Error).stack?.replaceAll('\n', ' ').slice(0, 400)}`
    if (!/\.$/.test(error.message)) return `no sentence: ${error.message}`
  }
  const took = performance.now() - start
  if (took > LONGEST) return `took ${Math.round(took)} ms`
  const { rss } = process.memoryUsage()
  return rss > LARGEST ? `took ${Math.round(rss / 2 ** 20)} MB` : 'ok'
}

const file = (path: string): Uint8Array => new Uint8Array(readFileSync(new URL(path, import.meta.url)))
const say = (name: string, result: string): void => void process.stdout.write(`${result === 'ok' ? 'ok' : result} ${name}\n`)

if (process.argv[2] === 'damaged') {
  const whole: readonly (readonly [string, Uint8Array])[] = [
    ['heron.ora', file('../../../demo/quill/quill.ora')],
    ['deckhand.puppet', file('../../../demo/dockhand/dockhand.marionette')],
    ['sheet.png', file('../../../demo/dockhand/sheet.png')],
    ['sheet.svg', file('../../../demo/dockhand/sheet.svg')],
    ['spoken.wav', file('../../sound/spoken.wav')],
    ['arm.puppet', writeArchive(armPuppet(), new Map())],
    ['dot.png', encodePng({ width: 8, height: 8, data: new Uint8Array(256).fill(200) })],
    ['plain.svg', strToU8('<svg xmlns="http://www.w3.org/2000/svg"><g id="a"><path d="M0 0L9 9z" style="fill:red"/></g></svg>')],
  ]
  for (const [i, [name, bytes]] of whole.entries()) for (const bad of damagedOnes(bytes, 250, 100 + i)) say(name, attempt(name, bad))
} else {
  const sizes = [0.01, 0.02, 0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.8, 1]
  for (const size of sizes) for (const { name, bytes } of grownFiles(size)) say(`${name} ${size}`, attempt(name, bytes()))
}
