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

/** Makes each anew. */
export const BUILD = {
  marlo: () => ({ puppet: buildMarlo(demoSvg()), assets: new Map<string, Uint8Array>() }),
  quill: () => buildQuill(demoOpenRaster(), new Uint8Array(read('./quill/quill-head.ora'))),
  clatter: () => ({ puppet: buildClatter(read('./clatter/clatter.svg').toString('utf8')), assets: new Map<string, Uint8Array>() }),
}

/** Builds a puppet when it is first asked for; documents are frozen, so that all who ask may share one. */
function built(build: () => Demo): () => Demo {
  let demo: Demo | undefined
  return () => {
    demo ??= build()
    return { puppet: demo.puppet, assets: new Map(demo.assets) }
  }
}

export const DEMOS: Readonly<Record<string, () => Demo>> = {
  marlo: built(BUILD.marlo),
  quill: built(BUILD.quill),
  clatter: built(BUILD.clatter),
  // Cutting and filling take seconds: the result is kept.
  dockhand: () => readArchive(new Uint8Array(read('./dockhand/dockhand.marionette'))),
}
