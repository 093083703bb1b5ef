/** Sounds with times of a described recording: the likeliest way through the states of an acoustic model (Viterbi 1967). */
import type { Phone } from '../timing'
import { DESCRIBED, type Described } from './describe'
import { STATES, type AcousticModel } from './acousticModel'
import { PICTURES } from './spectrum'

/** Neighbouring pictures tell much the same, so that what each says counts less. */
const TRUST = 0.35
/** How much it counts which sound follows which. */
const HABIT = 1.2
/** What it costs to begin another sound, and to fall silent. */
const CHANGE = 1.5
const SILENCE_COST = 6
/** What it costs to hear nothing where a sound should be, and something where there should be nothing. */
const DEAF = -7
const CLOSED = -0.6

/** Sounds of which the first state may be silent: the mouth is closed. */
const isStop = (phone: string): boolean => /^(P|T|K|B|D|G|CH|JH)$/.test(phone)

/** The likeliest sounds, in order, with their times; progress is told from 0 to 1. */
export function decode(model: AcousticModel, described: Described, progress?: (done: number) => void): Phone[] {
  const { count } = described
  const states = model.phones.length * STATES
  const cameFrom = new Int16Array(count * states)
  let scores = new Float64Array(states).fill(-Infinity)
  let next = new Float64Array(states)
  const emitted = new Float64Array(states)
  const arrivals = new Float64Array(model.phones.length)
  const origins = new Int16Array(model.phones.length)
  const quiet = quietScores(model)
  const silent = Float64Array.from(quiet, (score, state) => (state === 0 ? score : DEAF))
  const isLong = longQuiet(described.isQuiet)

  scores[0] = 0
  for (let k = 0; k < count; k++) {
    emissions(model, described, k, isLong[k] ? silent : quiet, emitted)
    arrive(model, scores, arrivals, origins)
    advance(model, scores, next, { emitted, arrivals, origins, cameFrom: cameFrom.subarray(k * states, (k + 1) * states) })
    ;[scores, next] = [next, scores]
    if (k % PICTURES === 0) progress?.(k / count)
  }
  return phonesOfPath(model, cameFrom, count, scores)
}

interface Step {
  readonly emitted: Float64Array
  readonly arrivals: Float64Array
  readonly origins: Int16Array
  readonly cameFrom: Int16Array
}

/** The best way to be in each state one picture later: it stays, or comes from the one before it. */
function advance(model: AcousticModel, scores: Float64Array, next: Float64Array, { emitted, arrivals, origins, cameFrom }: Step): void {
  for (let state = 0; state < next.length; state++) {
    const isFirst = state % STATES === 0
    const phone = Math.floor(state / STATES)
    const entering = isFirst ? arrivals[phone]! : scores[state - 1]! + model.leaves[state - 1]!
    const staying = scores[state]! + stays(model, state)
    const isNew = entering > staying
    // Silence has one state.
    next[state] = phone === 0 && !isFirst ? -Infinity : Math.max(entering, staying) + emitted[state]!
    cameFrom[state] = !isNew ? state : isFirst ? origins[phone]! : state - 1
  }
}

/** Pictures after which a closed mouth is silence rather than a stop. */
const LONGEST_CLOSED = 13

function longQuiet(isQuiet: Uint8Array): Uint8Array {
  const out = new Uint8Array(isQuiet.length)
  for (let from = 0, to = 0; from < isQuiet.length; from = to + 1) {
    for (to = from; to < isQuiet.length && isQuiet[to];) to++
    if (to - from > LONGEST_CLOSED) out.fill(1, from, to)
  }
  return out
}

const lastState = (phone: number): number => (phone === 0 ? 0 : phone * STATES + STATES - 1)
const stays = (model: AcousticModel, state: number): number => (state === 0 ? 0 : Math.log1p(-Math.exp(model.leaves[state]!)))

/** The best way to begin each sound anew. */
function arrive(model: AcousticModel, scores: Float64Array, arrivals: Float64Array, origins: Int16Array): void {
  const n = model.phones.length
  arrivals.fill(-Infinity)
  for (let from = 0; from < n; from++) {
    const state = lastState(from)
    const leaving = scores[state]! + (from === 0 ? 0 : model.leaves[state]!) - CHANGE
    if (leaving === -Infinity) continue
    for (let to = 0; to < n; to++) {
      const score = leaving + HABIT * model.follows[from * n + to]! - (to === 0 ? SILENCE_COST : 0)
      if (score > arrivals[to]! && to !== from) {
        arrivals[to] = score
        origins[to] = state
      }
    }
  }
}

function quietScores(model: AcousticModel): Float64Array {
  return Float64Array.from({ length: model.phones.length * STATES }, (_, state) => {
    if (state === 0) return 0
    return state % STATES === 0 && isStop(model.phones[Math.floor(state / STATES)]!) ? CLOSED : DEAF
  })
}

/** Logarithms of how likely each state is by one picture alone. */
function emissions(model: AcousticModel, { numbers, isQuiet }: Described, k: number, quiet: Float64Array, out: Float64Array): void {
  if (isQuiet[k]) return out.set(quiet)
  let most = -Infinity
  for (let state = STATES; state < out.length; state++) {
    let score = model.constants[state]!
    if (score !== -Infinity) {
      for (let d = 0; d < DESCRIBED; d++) score += model.weights[state * DESCRIBED + d]! * numbers[k * DESCRIBED + d]!
    }
    out[state] = TRUST * score
    most = Math.max(most, out[state]!)
  }
  let sum = 0
  for (let state = STATES; state < out.length; state++) sum += Math.exp(out[state]! - most)
  const scale = most + Math.log(sum)
  for (let state = 0; state < out.length; state++) out[state] = state < STATES ? DEAF : Math.max(2 * DEAF, out[state]! - scale)
}

function phonesOfPath(model: AcousticModel, cameFrom: Int16Array, count: number, scores: Float64Array): Phone[] {
  let state = 0
  for (let phone = 0; phone < model.phones.length; phone++) if (scores[lastState(phone)]! > scores[state]!) state = lastState(phone)
  const out: Phone[] = []
  let end = count
  for (let k = count - 1; k >= 0; k--) {
    const from = cameFrom[k * scores.length + state]!
    const isBegin = state % STATES === 0 && from !== state
    if (isBegin || k === 0) {
      out.push({ name: model.phones[Math.floor(state / STATES)]!, seconds: (end - k) / PICTURES, word: -1 })
      end = k
    }
    state = from
  }
  return out.reverse()
}
