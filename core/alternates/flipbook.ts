/** Flipbooks in time: which alternate shows, begun by hand or by a timer of its own. Nothing is kept: a time tells it all. */
import type { Flipbook } from './records'
import { seededRandom } from '../maths/solve/random'

/** Alternates in the order in which one round shows them. */
export function pagesOf({ pictures, way }: Pick<Flipbook, 'pictures' | 'way'>): number[] {
  if (way === 'forward') return [...pictures]
  const back = [...pictures].reverse()
  return way === 'back' ? back : [...pictures, ...back.slice(1, pictures.length > 2 ? -1 : undefined)]
}

/**
 * The alternate that a flipbook shows some seconds after it was begun; null where it shows none, before it begins and once it
 * has given way.
 */
export function pageAt(flipbook: Pick<Flipbook, 'pictures' | 'way' | 'hold' | 'ends'>, since: number): number | null {
  if (since < 0) return null
  const pages = pagesOf(flipbook)
  const page = Math.floor(since / flipbook.hold + 1e-9)
  if (page < pages.length) return pages[page]!
  if (flipbook.ends === 'once') return null
  return flipbook.ends === 'hold' ? pages.at(-1)! : pages[page % pages.length]!
}

/** Seconds that one round takes. */
export const roundOf = (flipbook: Pick<Flipbook, 'pictures' | 'way' | 'hold'>): number => pagesOf(flipbook).length * flipbook.hold

/** A flipbook that its timer begins. The same seed gives the same times; those that were found once are kept. */
export class TimedFlipbook {
  /** Times of beginnings, in order; at least one of them later than any time that was asked for. */
  private readonly begins: number[] = []
  private readonly pages: readonly number[]
  private readonly random: () => number

  constructor(
    private readonly flipbook: Pick<Flipbook, 'pictures' | 'way' | 'hold'>,
    private readonly timer: NonNullable<Flipbook['timer']>,
  ) {
    this.pages = pagesOf(flipbook)
    this.random = seededRandom(timer.seed)
  }

  /** Times at which it begins, up to a time. */
  beginsUntil(time: number): number[] {
    return this.begins.slice(0, this.countUntil(time))
  }

  /** The alternate that it shows at a time; -1 between its rounds. Allocates nothing for times that were asked for before. */
  pageAt(time: number): number {
    const count = this.countUntil(time)
    if (count === 0) return -1
    const page = Math.floor((time - this.begins[count - 1]!) / this.flipbook.hold + 1e-9)
    return this.pages[page] ?? -1
  }

  /** How often it has begun at a time. */
  private countUntil(time: number): number {
    const { begins, timer } = this
    // Intervals are spread to both sides; none is shorter than a twentieth.
    for (let last = begins.at(-1) ?? 0; last <= time;) {
      last += timer.every * Math.max(0.05, 1 + timer.vary * (2 * this.random() - 1))
      begins.push(last)
    }
    let [low, high] = [0, begins.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (begins[middle]! <= time) low = middle + 1
      else high = middle
    }
    return low
  }
}
