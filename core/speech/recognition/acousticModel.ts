/**
 * An acoustic model: what each sound looks like, learnt from the stand-in voice. Every sound is three states in a row, every state a normal
 * distribution; all share one covariance (linear discriminants, Fisher 1936). Which sound follows which is counted.
 */
import { factorise, symmetricFromTriplets } from '../../maths/solve/cholesky'
import type { Phone } from '../timing'
import { ARTICULATION } from '../voice/articulation'
import { DESCRIBED, describe } from './describe'
import { PICTURES } from './spectrum'

/** Number of stretches of time into which a sound is divided. */
export const STATES = 3

/** What each stretch of each sound is like. */
export interface AcousticModel {
  /** ARPABET names, silence under the empty name first. */
  readonly phones: readonly string[]
  /** For each state (phone times `STATES`): weights of a linear score, and its constant. */
  readonly weights: Float64Array
  readonly constants: Float64Array
  /** Logarithm of how often a phone follows another: from times phones plus to. */
  readonly follows: Float64Array
  /** Logarithm of the share of pictures after which a state is left. */
  readonly leaves: Float64Array
}

/** Speech of which the sounds are known. */
export interface TrainingLine {
  readonly samples: Float32Array
  readonly phones: readonly Phone[]
}

/** The sounds that are recognised: ARPABET names, silence first, under the empty name. */
export const RECOGNISED_PHONES: readonly string[] = ['', ...Object.keys(ARTICULATION).filter((name) => name !== '')]

/** Shares of a sound that its states take: those of the stretches of a stop, thirds otherwise. */
function sharesOf(phone: string): readonly number[] {
  const stretches = ARTICULATION[phone]!
  return stretches.length === STATES ? stretches.map((s) => s.share) : [1 / 3, 1 / 3, 1 / 3]
}

/** Learns from training lines. Every sound has to occur in them. */
export function trainModel(trainingLines: readonly TrainingLine[]): AcousticModel {
  const count = RECOGNISED_PHONES.length * STATES
  const sums = new Float64Array(count * DESCRIBED)
  const squares = new Float64Array(DESCRIBED * DESCRIBED)
  const seen = new Float64Array(count)
  const visits = new Float64Array(count)
  for (const { samples, phones } of trainingLines) {
    const described = describe(samples)
    for (const { state, from, to } of statesOf(phones)) {
      visits[state]!++
      for (let k = from; k < Math.min(to, described.count); k++) {
        if (described.isQuiet[k]) continue
        gather(described.numbers.subarray(k * DESCRIBED, (k + 1) * DESCRIBED), state, sums, squares)
        seen[state]!++
      }
    }
  }
  return { phones: RECOGNISED_PHONES, ...discriminants(sums, squares, seen), ...transitions(trainingLines, seen, visits) }
}

/** Pictures that each state of spoken sounds takes. */
function statesOf(phones: readonly Phone[]): { state: number; from: number; to: number }[] {
  let time = 0
  return phones.flatMap(({ name, seconds }) => {
    const phone = RECOGNISED_PHONES.indexOf(name)
    return sharesOf(name).map((share, k) => {
      const from = Math.round(time * PICTURES)
      time += share * seconds
      return { state: phone * STATES + k, from, to: Math.round(time * PICTURES) }
    })
  })
}

function gather(x: Float64Array, state: number, sums: Float64Array, squares: Float64Array): void {
  for (let a = 0; a < DESCRIBED; a++) {
    sums[state * DESCRIBED + a]! += x[a]!
    for (let b = 0; b <= a; b++) squares[a * DESCRIBED + b]! += x[a]! * x[b]!
  }
}

/** Scores `x·w + c`: the logarithm of a normal density with the shared covariance, but for what is common to all. */
function discriminants(sums: Float64Array, squares: Float64Array, seen: Float64Array): Pick<AcousticModel, 'weights' | 'constants'> {
  const n = DESCRIBED
  const total = seen.reduce((a, b) => a + b, 0)
  const mean = (state: number, d: number): number => (seen[state] ? sums[state * n + d]! / seen[state]! : 0)
  const [rows, columns, within]: [number[], number[], number[]] = [[], [], []]
  for (let a = 0; a < n; a++) {
    for (let b = 0; b <= a; b++) {
      let between = 0
      for (let s = 0; s < seen.length; s++) between += seen[s]! * mean(s, a) * mean(s, b)
      rows.push(a)
      columns.push(b)
      within.push((squares[a * n + b]! - between) / total + (a === b ? RIDGE : 0))
    }
  }
  const factor = factorise(
    symmetricFromTriplets(n, rows, columns, within),
    Int32Array.from({ length: n }, (_, d) => d),
  )
  const weights = new Float64Array(seen.length * n)
  const constants = new Float64Array(seen.length).fill(-Infinity)
  for (let s = 0; s < seen.length; s++) {
    if (seen[s]! < LEAST_SEEN) continue
    const means = Float64Array.from({ length: n }, (_, d) => mean(s, d))
    const w = weights.subarray(s * n, (s + 1) * n)
    factor.solve(means, w)
    let dot = 0
    for (let d = 0; d < n; d++) dot += w[d]! * means[d]!
    constants[s] = -dot / 2
  }
  return { weights, constants }
}

const RIDGE = 0.02
/** Pictures from which a state is known. */
const LEAST_SEEN = 4

function transitions(
  trainingLines: readonly TrainingLine[],
  seen: Float64Array,
  visits: Float64Array,
): Pick<AcousticModel, 'follows' | 'leaves'> {
  const n = RECOGNISED_PHONES.length
  const counts = new Float64Array(n * n).fill(0.3)
  for (const { phones } of trainingLines) {
    phones.forEach(({ name }, k) => {
      const next = phones[k + 1]
      if (next) counts[RECOGNISED_PHONES.indexOf(name) * n + RECOGNISED_PHONES.indexOf(next.name)]!++
    })
  }
  const follows = counts.map((count, k) => {
    const row = n * Math.floor(k / n)
    return Math.log(count / counts.subarray(row, row + n).reduce((a, b) => a + b, 0))
  })
  const leaves = visits.map((count, s) => Math.log(Math.min(0.8, Math.max(0.05, count / Math.max(1, seen[s]!)))))
  return { follows, leaves }
}
