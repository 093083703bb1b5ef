/**
 * `rig test ARCHIVE --out DIR [--poses N] [--seed N] [--json]`: puts a puppet through all that it can do. Writes a contact sheet, a film
 * and a report, and says in a line what was found; broken things make the exit code 1.
 */
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { rangeFilm, rangeSheet } from '@marionette/authoring/rangeSheet'
import { rangeTest } from '@marionette/authoring/rangeTest'
import { countGraded, reportSaid, runName, sampleSaid, type RangeReport } from '@marionette/core/rangeTest/report'
import { loadCanvasKit } from '@marionette/render/node'
import { Failure } from './failure'
import { readInput, writeOutput } from './files'
import { wholeNumber } from './numbers'

/** Random poses that are tried at most. */
const MOST_POSES = 10_000

export interface TestFlags {
  readonly out: string
  readonly poses?: string | undefined
  readonly seed?: string | undefined
  readonly json: boolean
}

export interface Tested {
  /** What is said of it. */
  readonly said: string
  readonly isBroken: boolean
}

/** The font in which sheets are written: the one of the interface. */
const fontBytes = (): Uint8Array =>
  new Uint8Array(
    readFileSync(
      createRequire(import.meta.url).resolve('@fontsource-variable/instrument-sans/files/instrument-sans-latin-wght-normal.woff2'),
    ),
  )

export async function testInput(input: string, { out, poses, seed, json }: TestFlags): Promise<Tested> {
  const { puppet, assets } = await readInput(input)
  const CK = await loadCanvasKit()
  const source = { assets: (hash: string) => assets.get(hash) }
  const count = poses === undefined ? {} : { poses: wholeNumber('--poses', poses, MOST_POSES) }
  const begun = seed === undefined ? {} : { seed: wholeNumber('--seed', seed, 2 ** 31 - 2) }
  const report = rangeTest(CK, puppet, { ...source, ...count, ...begun })
  if (report.runs.length === 0) throw new Failure(`${input}: there is nothing to be tried in it, neither bones nor controls`)
  const font = fontBytes()
  writeOutput(join(out, 'sheet.png'), rangeSheet(CK, puppet, report, { ...source, font }))
  writeOutput(join(out, 'film.gif'), rangeFilm(CK, puppet, report, { ...source, font }))
  const text = JSON.stringify(written(report), null, 2)
  writeOutput(join(out, 'report.json'), new TextEncoder().encode(`${text}\n`))
  return { said: json ? text : described(report), isBroken: countGraded(report, 'broken') > 0 }
}

/** The report as it is written: poses in which all is good by their names alone. */
const written = (report: RangeReport): unknown => ({
  puppet: report.puppet,
  poses: report.poses,
  broken: countGraded(report, 'broken'),
  look: countGraded(report, 'look'),
  runs: report.runs.map(({ samples, worst, ...run }) => ({
    ...run,
    worst: samples[worst]?.said ?? null,
    samples: samples.map(({ values, faults, ...sample }) => ({ ...sample, ...(faults.length > 0 ? { values, faults } : {}) })),
  })),
})

function described(report: RangeReport): string {
  const lines = report.runs.flatMap((run) => {
    const sample = run.samples[run.worst]
    return run.grade === 'good' || !sample ? [] : [`${run.grade.padEnd(6)}  ${runName(run)}, ${sampleSaid(sample)}`]
  })
  return [`${report.puppet}: ${reportSaid(report)}`, ...lines].join('\n')
}
