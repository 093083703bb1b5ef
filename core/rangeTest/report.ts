/** What a range test found. */
import type { JointId, PartId } from '../kernel/ids'
import { nth } from '../kernel/sure'
import { GRADE_NAMES, type Grade } from '../reports/sweepGrade'
import type { FaultKind } from './grades'
import type { Run, Values } from './runs'

export interface RangeFault {
  readonly kind: FaultKind
  readonly part: PartId | null
  /** The part from which it comes off. */
  readonly other: PartId | null
  readonly joint: JointId | null
  /** In the measure of its kind. */
  readonly amount: number
  readonly grade: Grade
  /** 1 where it begins to be worth a look. */
  readonly severity: number
  /** A sentence: what, and how bad. */
  readonly said: string
}

export interface RangeSample {
  readonly at: number
  readonly said: string
  /** So that it can be posed again. */
  readonly values: Values
  /** The worst first. */
  readonly faults: readonly RangeFault[]
  /** The worst that was measured, also where nobody would see it: 1 is where it begins to be worth a look. */
  readonly badness: number
  /** Smallest share of its area that a bent drawing has left. */
  readonly area: number
  /** Heights of the figure a second; null where no time goes by. */
  readonly speed: number | null
}

export interface RangeRun extends Pick<Run, 'id' | 'kind' | 'name' | 'subject' | 'channel'> {
  readonly view: string
  readonly samples: readonly RangeSample[]
  /** The sample with its worst fault, or the one that is farthest from rest where all is good. */
  readonly worst: number
  readonly grade: Grade
  readonly severity: number
}

/** A run among those of all views. */
export const runKey = ({ id, view }: Pick<RangeRun, 'id' | 'view'>): string => `${view}/${id}`

export interface RangeReport {
  readonly puppet: string
  /** Poses that were looked at. */
  readonly poses: number
  /** The worst first. */
  readonly runs: readonly RangeRun[]
}

const GRAVITY: Readonly<Record<Grade, number>> = { broken: 2, look: 1, good: 0 }

/** The worse of two faults, or runs, first. */
export const worseFirst = (a: { grade: Grade; severity: number }, b: { grade: Grade; severity: number }): number =>
  GRAVITY[b.grade] - GRAVITY[a.grade] || b.severity - a.severity

/** A run with what was found in its poses. */
export function finishedRun(run: Run, view: string, samples: readonly RangeSample[]): RangeRun {
  const { id, kind, name, subject, channel } = run
  const faultOf = (k: number): RangeFault | undefined => samples[k]?.faults[0]
  const order = samples
    .map((_, k) => k)
    .sort((a, b) => {
      const [one, other] = [faultOf(a), faultOf(b)]
      if (one && other) return worseFirst(one, other)
      return Number(other !== undefined) - Number(one !== undefined) || Math.abs(nth(samples, b).at) - Math.abs(nth(samples, a).at)
    })
  const worst = order[0] ?? 0
  const fault = faultOf(worst)
  return { id, kind, name, subject, channel, view, samples, worst, grade: fault?.grade ?? 'good', severity: fault?.severity ?? 0 }
}

/** The fault that decides about a run; null where all is good. */
export const decidingFault = ({ samples, worst }: Pick<RangeRun, 'samples' | 'worst'>): RangeFault | null =>
  samples[worst]?.faults[0] ?? null

/** A report with some of its runs tried again; what is not there any more is left out. */
export function withTriedAgain(report: RangeReport, again: RangeReport, tried: readonly string[]): RangeReport {
  const runs = [...report.runs.filter((run) => !tried.includes(runKey(run))), ...again.runs].sort(worseFirst)
  return { ...report, runs, poses: runs.reduce((sum, { samples }) => sum + samples.length, 0) }
}

/** How many runs have a grade. */
export const countGraded = ({ runs }: RangeReport, grade: Grade): number => runs.filter((run) => run.grade === grade).length

/** A run as people read it, with its view where there are several. */
export const runName = ({ name, view }: Pick<RangeRun, 'name' | 'view'>): string => (view === '' ? name : `${name} (${view})`)

/** A sample in words: which it is, and the worst of it. */
export const sampleSaid = ({ said, faults: [fault] }: Pick<RangeSample, 'said' | 'faults'>): string =>
  `${said}: ${fault?.said ?? GRADE_NAMES.good}`

/** What a report comes to, in a line. */
export const reportSaid = (report: RangeReport): string =>
  `${report.poses} poses in ${report.runs.length} runs: ${countGraded(report, 'broken')} broken, ${countGraded(report, 'look')} to look at, ${countGraded(report, 'good')} good`
