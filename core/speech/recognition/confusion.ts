/** How well a recording was recognised, frame by frame, where its sounds are known. */
import { VISEME_SETS, visemeIn, type Viseme } from '../visemes'
import type { Phone } from '../timing'
import { piecesOf } from '../track'
import { PICTURES } from './spectrum'

/** The six classes that are told apart. */
export const CLASSES: readonly Viseme[] = VISEME_SETS[6]

/** The class of each hundredth of a second. */
export function classesOf(phones: readonly Phone[]): Viseme[] {
  const out: Viseme[] = []
  let time = 0
  for (const { viseme, seconds } of phones.flatMap(piecesOf)) {
    time += seconds
    const shown = visemeIn((v) => CLASSES.includes(v), viseme)!
    while ((out.length + 0.5) / PICTURES < time) out.push(shown)
  }
  return out
}

/** Which classes of sounds were taken for which. */
export interface Confusion {
  /** Frames: true class times classes plus recognised class. */
  readonly counts: Float64Array
  readonly frames: number
  /** Share of frames recognised right. */
  readonly right: number
  /** Share of silent frames recognised as silence. */
  readonly silence: number
}

/** Compares what was recognised with what was said, frame by frame. */
export function confusionOf(truth: readonly Phone[], recognised: readonly Phone[]): Confusion {
  const [a, b] = [classesOf(truth), classesOf(recognised)]
  const n = CLASSES.length
  const counts = new Float64Array(n * n)
  a.forEach((viseme, k) => counts[CLASSES.indexOf(viseme) * n + CLASSES.indexOf(b[k] ?? 'rest')]!++)
  return summed(counts)
}

/** All frames of several together. */
export function together(several: readonly Confusion[]): Confusion {
  const counts = new Float64Array(CLASSES.length ** 2)
  for (const one of several) one.counts.forEach((count, k) => (counts[k]! += count))
  return summed(counts)
}

function summed(counts: Float64Array): Confusion {
  const n = CLASSES.length
  const frames = counts.reduce((sum, count) => sum + count, 0)
  const right = CLASSES.reduce((sum, _, k) => sum + counts[k * n + k]!, 0) / frames
  const silent = counts.subarray(0, n).reduce((sum, count) => sum + count, 0)
  return { counts, frames, right, silence: silent === 0 ? 1 : counts[0]! / silent }
}
