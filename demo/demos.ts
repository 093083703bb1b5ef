/** The demo puppets by name. */
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { readArchive } from '@marionette/formats/archive/archive'
import { buildClatter } from './clatter/build'
import { buildMarlo } from './marlo/build'
import { buildQuill } from './quill/build'
import type { Demo } from './demo'

const read = (path: string): Buffer => readFileSync(fileURLToPath(new URL(path, import.meta.url)))

/** The drawing of Marlo. */
export const demoSvg = (): string => read('./marlo/marlo.svg').toString('utf8')
/** The painted layers of Quill. */
export const demoOpenRaster = (): Uint8Array => new Uint8Array(read('./quill/quill.ora'))

export const DEMOS: Readonly<Record<string, () => Demo>> = {
  marlo: () => ({ puppet: buildMarlo(demoSvg()), assets: new Map() }),
  quill: () => buildQuill(demoOpenRaster()),
  clatter: () => ({ puppet: buildClatter(read('./clatter/clatter.svg').toString('utf8')), assets: new Map() }),
  // Cutting and filling take seconds: the result is kept.
  dockhand: () => readArchive(new Uint8Array(read('./dockhand/dockhand.puppet'))),
}
