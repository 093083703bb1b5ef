/** Measuring: medians of at least 30 rounds after a warm-up, references run in between. */

export interface Figure {
  readonly name: string
  readonly median_ms?: number
  readonly p95_ms?: number
  readonly bytes?: number
  readonly n: number
  readonly reference_ms?: number | null
  readonly ratio?: number | null
  readonly note: string
}

const ROUNDS = 40
const WARM_UP = 8
/** Work that takes seconds is measured in fewer rounds. */
export const FEW_ROUNDS = 5
const warmUp = (rounds: number): number => (rounds <= FEW_ROUNDS ? 1 : WARM_UP)

const at = (sorted: readonly number[], share: number): number => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!
const rounded = (ms: number): number => Math.round(ms * 1000) / 1000

function time(work: (round: number) => void, round: number): number {
  const start = performance.now()
  work(round)
  return performance.now() - start
}

/** Times work that waits, e.g. for a disk. */
export async function measureAsync(
  name: string,
  n: number,
  note: string,
  work: (round: number) => Promise<void>,
  rounds = ROUNDS,
): Promise<Figure> {
  for (let i = 0; i < warmUp(rounds); i++) await work(i)
  const times: number[] = []
  for (let i = 0; i < rounds; i++) {
    const start = performance.now()
    await work(i)
    times.push(performance.now() - start)
  }
  times.sort((a, b) => a - b)
  return { name, median_ms: rounded(at(times, 0.5)), p95_ms: rounded(at(times, 0.95)), n, reference_ms: null, ratio: null, note }
}

/**
 * Times work, with a reference in turn where there is one.
 *
 * @param n how much each round handles: points, drawings
 */
export function measure(
  name: string,
  n: number,
  note: string,
  work: (round: number) => void,
  reference?: (round: number) => void,
  rounds = ROUNDS,
): Figure {
  for (let i = 0; i < warmUp(rounds); i++) {
    work(i)
    reference?.(i)
  }
  const times: number[] = []
  const others: number[] = []
  for (let i = 0; i < rounds; i++) {
    times.push(time(work, i))
    if (reference) others.push(time(reference, i))
  }
  times.sort((a, b) => a - b)
  others.sort((a, b) => a - b)
  const median = at(times, 0.5)
  const other = reference ? at(others, 0.5) : null
  return {
    name,
    median_ms: rounded(median),
    p95_ms: rounded(at(times, 0.95)),
    n,
    reference_ms: other === null ? null : rounded(other),
    ratio: other === null ? null : rounded(median / other),
    note,
  }
}
