/**
 * What is heard, picture by picture: loudness, voicing and the shape of the spectrum as mel cepstra (Davis and Mermelstein 1980,
 * "Comparison of parametric representations for monosyllabic word recognition").
 */
import FFT from 'fft.js'
import { SAMPLE_RATE } from '../voice/speak'

/** Pictures of the sound a second. */
export const PICTURES = 100
const HOP = SAMPLE_RATE / PICTURES
/** 25 ms. */
const WINDOW = 400
const SIZE = 512
const BANDS = 26
/** What lies above differs more between microphones than between sounds, hertz. */
const HIGHEST = 4700
/** Numbers that describe the shape of a spectrum; its loudness is none of them. */
export const CEPSTRA = 12

/** A recording as spectra, one for each moment. */
export interface Spectrum {
  readonly count: number
  /** `count` times `CEPSTRA` numbers. */
  readonly cepstra: Float64Array
  /** Decibels against full scale, of the time for which a picture stands and no more. */
  readonly loudness: Float64Array
  /** From 0, noise, to 1, a clear tone of 60 to 400 Hz. */
  readonly voicing: Float64Array
}

const mel = (hertz: number): number => 1127 * Math.log(1 + hertz / 700)
const hertz = (mels: number): number => 700 * (Math.exp(mels / 1127) - 1)

/** Triangles on the mel scale, as weights of the bins between `from` and `from + weights.length`. */
function melBands(): { readonly from: number; readonly weights: Float64Array }[] {
  const [low, high] = [mel(80), mel(HIGHEST)]
  const edges = Array.from({ length: BANDS + 2 }, (_, k) => (hertz(low + ((high - low) * k) / (BANDS + 1)) * SIZE) / SAMPLE_RATE)
  return Array.from({ length: BANDS }, (_, band) => {
    const [a, b, c] = [edges[band]!, edges[band + 1]!, edges[band + 2]!]
    const from = Math.ceil(a)
    const weights = Float64Array.from({ length: Math.max(1, Math.floor(c) - from + 1) }, (__, k) => {
      const bin = from + k
      return Math.max(0, bin < b ? (bin - a) / (b - a) : (c - bin) / (c - b))
    })
    return { from, weights }
  })
}

/**
 * Describes samples at `SAMPLE_RATE`.
 *
 * @param progress told from 0 to 1 every second of sound
 */
export function spectrumOf(samples: Float32Array, progress?: (done: number) => void): Spectrum {
  const count = Math.max(1, Math.floor(samples.length / HOP))
  const out = {
    count,
    cepstra: new Float64Array(count * CEPSTRA),
    loudness: new Float64Array(count),
    voicing: new Float64Array(count),
  }
  const describe = describer(samples, out)
  for (let k = 0; k < count; k++) {
    describe(k)
    if (k % PICTURES === 0) progress?.(k / count)
  }
  return out
}

function describer(samples: Float32Array, out: Omit<Spectrum, 'count'>): (picture: number) => void {
  const fft = new FFT(SIZE)
  const bands = melBands()
  const cosines = Float64Array.from({ length: CEPSTRA * BANDS }, (_, k) => {
    const [order, band] = [1 + Math.floor(k / BANDS), k % BANDS]
    return Math.sqrt(2 / BANDS) * Math.cos((Math.PI * order * (band + 0.5)) / BANDS)
  })
  const hamming = Float64Array.from({ length: WINDOW }, (_, k) => 0.54 - 0.46 * Math.cos((2 * Math.PI * k) / (WINDOW - 1)))
  const wave = new Float64Array(SIZE)
  const bins = new Float64Array(2 * SIZE)
  const logs = new Float64Array(BANDS)
  const coarse = new Float64Array(TRIED + LONGEST)

  const measureBands = (): void => {
    for (let band = 0; band < BANDS; band++) {
      const { from, weights } = bands[band]!
      let sum = 0
      for (let k = 0; k < weights.length; k++) {
        const [re, im] = [bins[2 * (from + k)]!, bins[2 * (from + k) + 1]!]
        sum += weights[k]! * (re * re + im * im)
      }
      logs[band] = Math.log(sum + FLOOR)
    }
  }
  return (picture) => {
    // In the middle of the time for which the picture stands.
    const begin = picture * HOP - (WINDOW - HOP) / 2
    let energy = 0
    for (let k = 0; k < HOP; k++) energy += samples[picture * HOP + k]! ** 2
    for (let k = 0; k < WINDOW; k++) {
      const x = samples[begin + k] ?? 0
      wave[k] = hamming[k]! * (x - 0.97 * (samples[begin + k - 1] ?? 0))
    }
    fft.realTransform(bins, wave)
    measureBands()
    for (let c = 0; c < CEPSTRA; c++) {
      let sum = 0
      for (let band = 0; band < BANDS; band++) sum += cosines[c * BANDS + band]! * logs[band]!
      out.cepstra[picture * CEPSTRA + c] = sum
    }
    out.loudness[picture] = 10 * Math.log10(energy / HOP + 1e-10)
    out.voicing[picture] = voicingAt(samples, begin, coarse)
  }
}

/** Keeps the logarithm of digital silence away from minus infinity. */
const FLOOR = 1e-6

/** Samples of which voicing takes the mean of each four, the window of a correlation, and the periods tried. */
const SKIP = 4
const TRIED = 100
const SHORTEST = 10
const LONGEST = 64

/** Normalised cross-correlation with what follows a period later, at the best period of 2.5 to 16 ms. */
function voicingAt(samples: Float32Array, begin: number, coarse: Float64Array): number {
  for (let k = 0; k < coarse.length; k++) {
    const at = begin + k * SKIP
    coarse[k] = at >= 0 && at + 3 < samples.length ? samples[at]! + samples[at + 1]! + samples[at + 2]! + samples[at + 3]! : 0
  }
  let own = 1e-6
  let other = 1e-6
  for (let k = 0; k < TRIED; k++) own += coarse[k]! * coarse[k]!
  for (let k = SHORTEST; k < SHORTEST + TRIED; k++) other += coarse[k]! * coarse[k]!
  let best = 0
  for (let lag = SHORTEST; lag < LONGEST; lag++) {
    let cross = 0
    for (let k = 0; k < TRIED; k++) cross += coarse[k]! * coarse[k + lag]!
    best = Math.max(best, cross / Math.sqrt(own * other))
    other += coarse[lag + TRIED]! * coarse[lag + TRIED]! - coarse[lag]! * coarse[lag]!
  }
  return best
}
