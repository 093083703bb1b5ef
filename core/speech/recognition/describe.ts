/** Numbers by which sounds are told apart, freed of loudness, microphone and voice as far as a recording tells of them. */
import { CEPSTRA, spectrumOf, type Spectrum } from './spectrum'

/** Shape of the spectrum, loudness against the loud, voicing; and how fast each of them changes. */
const STILL = CEPSTRA + 2

/** How many numbers describe one moment. */
export const DESCRIBED = 2 * STILL

/** A recording as numbers for each moment. */
export interface Described {
  readonly count: number
  /** `count` times `DESCRIBED` numbers. */
  readonly numbers: Float64Array
  /** One for each picture: 1 where nothing is heard. */
  readonly isQuiet: Uint8Array
}

/** Describes a recording, mono at the rate of the spectrum; `progress` hears the share that is done. */
export function describe(samples: Float32Array, progress?: (done: number) => void): Described {
  const spectrum = spectrumOf(samples, progress)
  const isQuiet = quietOf(spectrum.loudness)
  const still = stillOf(spectrum, isQuiet)
  const numbers = new Float64Array(spectrum.count * DESCRIBED)
  for (let k = 0; k < spectrum.count; k++) {
    for (let d = 0; d < STILL; d++) {
      numbers[k * DESCRIBED + d] = still[k * STILL + d]!
      numbers[k * DESCRIBED + STILL + d] = slope(still, spectrum.count, k, d)
    }
  }
  return { count: spectrum.count, numbers, isQuiet }
}

/** Decibels over the noise floor and under the loud at which something is heard. */
const OVER_FLOOR = 8
const UNDER_LOUD = 30

/** Quiet is what hardly rises over the noise and stays far below the voice. */
function quietOf(loudness: Float64Array): Uint8Array {
  const sorted = Float64Array.from(loudness).sort()
  const at = (share: number): number => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!
  const [floor, loud] = [at(0.05), at(0.95)]
  // Without any silence in it, the floor is speech.
  const least = Math.min(Math.max(floor + OVER_FLOOR, loud - UNDER_LOUD), loud - 22)
  return Uint8Array.from(loudness, (x) => (x < Math.max(least, SILENCE) ? 1 : 0))
}

/** Decibels below which nothing is heard however quiet all is. */
const SILENCE = -70

function stillOf({ count, cepstra, loudness, voicing }: Spectrum, isQuiet: Uint8Array): Float64Array {
  const out = new Float64Array(count * STILL)
  const mean = new Float64Array(CEPSTRA)
  let loud = 0
  let heard = 0
  for (let k = 0; k < count; k++) {
    if (isQuiet[k]) continue
    heard++
    loud += loudness[k]!
    for (let d = 0; d < CEPSTRA; d++) mean[d]! += cepstra[k * CEPSTRA + d]!
  }
  for (let k = 0; k < count; k++) {
    for (let d = 0; d < CEPSTRA; d++) out[k * STILL + d] = isQuiet[k] ? 0 : cepstra[k * CEPSTRA + d]! - mean[d]! / heard
    out[k * STILL + CEPSTRA] = Math.max(-4, (loudness[k]! - loud / Math.max(1, heard)) / 10)
    out[k * STILL + CEPSTRA + 1] = 3 * voicing[k]!
  }
  return out
}

/** Regression over seven pictures. */
function slope(still: Float64Array, count: number, k: number, d: number): number {
  let sum = 0
  for (let step = 1; step <= 3; step++) {
    const [after, before] = [Math.min(count - 1, k + step), Math.max(0, k - step)]
    sum += step * (still[after * STILL + d]! - still[before * STILL + d]!)
  }
  return sum / 9
}
