/** Flipbooks in time: which alternate shows, begun by hand or by a timer of its own. Nothing is kept: a time tells it all. */
import type { Flipbook } from '../document/schema'
import { seededRandom } from '../solve/random'

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

/** Times at which a timer begins a flipbook, up to a time. The same seed gives the same times. */
export function beginsUntil({ timer }: Pick<Flipbook, 'timer'>, time: number): number[] {
  if (!timer) return []
  const random = seededRandom(timer.seed)
  const out: number[] = []
  // Intervals are spread to both sides; none is shorter than a twentieth.
  for (let at = 0; ;) {
    at += timer.every * Math.max(0.05, 1 + timer.vary * (2 * random() - 1))
    if (at > time) return out
    out.push(at)
  }
}

/** The alternate that a flipbook with a timer shows at a time; null between its rounds. */
export function timedPage(flipbook: Flipbook, time: number): number | null {
  const begun = beginsUntil(flipbook, time).at(-1)
  return begun === undefined ? null : pageAt({ ...flipbook, ends: 'once' }, time - begun)
}
