/** The range test, inside of a worker: the report with a picture of each run, and the files that are made of it. */
import fontUrl from '@fontsource-variable/instrument-sans/files/instrument-sans-latin-wght-normal.woff2?url'
import { RangeCamera, rangeFilm, rangeSheet } from '@marionette/authoring/rangeSheet'
import { rangeTest } from '@marionette/authoring/rangeTest'
import { runKey, type RangeReport } from '@marionette/core/rangeTest/report'
import type { Puppet } from '@marionette/core/puppet/schema'
import { encodePng, PASSING } from '@marionette/formats/pixels'
import { loadSkia } from '../skia/loadSkia'

type Assets = ReadonlyMap<string, Uint8Array>

export type TestProgress = (done: number, said: string) => void

export interface RangeTested {
  readonly report: RangeReport
  /** PNG of each run in its worst pose, by its key. */
  readonly pictures: ReadonlyMap<string, Uint8Array>
}

const SIDE = 208
/** Progress is told at most so often, ms. */
const OFTEN = 100

export async function testRange(
  puppet: Puppet,
  assets: Assets,
  only: readonly string[] | null,
  progress: TestProgress,
): Promise<RangeTested> {
  const CK = await loadSkia()
  const source = (hash: string): Uint8Array | undefined => assets.get(hash)
  let told = 0
  const report = rangeTest(CK, puppet, {
    assets: source,
    only: only ?? undefined,
    progress: (done, said) => {
      if (performance.now() - told < OFTEN) return
      told = performance.now()
      progress(done, said)
    },
  })
  const camera = new RangeCamera(CK, puppet, source)
  try {
    const pictures = report.runs.flatMap((run) => {
      const sample = run.samples[run.worst]
      return sample ? [[runKey(run), encodePng(camera.take(run, sample, SIDE, true), PASSING)] as const] : []
    })
    return { report, pictures: new Map(pictures) }
  } finally {
    camera.dispose()
  }
}

/** A report as a contact sheet, PNG, or as a film, GIF. */
export async function rangeFile(
  puppet: Puppet,
  report: RangeReport,
  kind: 'sheet' | 'film',
  assets: Assets,
  progress: (done: number) => void,
): Promise<Uint8Array> {
  const [CK, response] = await Promise.all([loadSkia(), fetch(fontUrl)])
  const font = new Uint8Array(await response.arrayBuffer())
  const options = { font, assets: (hash: string) => assets.get(hash), progress }
  return kind === 'sheet' ? rangeSheet(CK, puppet, report, options) : rangeFilm(CK, puppet, report, options)
}
