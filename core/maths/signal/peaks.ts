/** Outlines of sounds, as they are drawn. */

/** How loud a sound is in equal stretches of it: lowest and highest samples, each between -1 and 1. */
export interface Peaks {
  /** [2n] lowest and highest sample of each stretch */
  readonly extremes: Float32Array
  /** Stretches a second. */
  readonly perSecond: number
}

/**
 * The outline of a sound. Several channels count together: the outline is that of the loudest.
 *
 * @param channels [c][m] samples, all of one length
 * @param rate samples a second
 * @param perSecond stretches a second, at most as many as there are samples
 */
export function peaksOf(channels: readonly Float32Array[], rate: number, perSecond = 200): Peaks {
  const length = channels[0]?.length ?? 0
  const span = rate / perSecond
  const count = Math.ceil(length / span)
  const extremes = new Float32Array(2 * count)
  for (const samples of channels)
    for (let k = 0; k < count; k++) {
      const to = Math.min(length, Math.round((k + 1) * span))
      let low = extremes[2 * k]!
      let high = extremes[2 * k + 1]!
      for (let i = Math.round(k * span); i < to; i++) {
        const sample = samples[i]!
        if (sample < low) low = sample
        if (sample > high) high = sample
      }
      extremes[2 * k] = low
      extremes[2 * k + 1] = high
    }
  return { extremes, perSecond }
}

/** Lowest and highest sample from one second to another; a stretch that is touched counts whole. Written into `out` [2]. */
export function peakBetween({ extremes, perSecond }: Peaks, from: number, to: number, out: Float32Array): Float32Array {
  const last = extremes.length / 2
  let [low, high] = [0, 0]
  for (
    let k = Math.max(0, Math.floor(from * perSecond));
    k < Math.min(last, Math.max(Math.ceil(to * perSecond), Math.floor(from * perSecond) + 1));
    k++
  ) {
    if (extremes[2 * k]! < low) low = extremes[2 * k]!
    if (extremes[2 * k + 1]! > high) high = extremes[2 * k + 1]!
  }
  out[0] = low
  out[1] = high
  return out
}
