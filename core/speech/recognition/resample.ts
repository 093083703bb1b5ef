/** Another number of samples a second, by a windowed sinc (Smith and Gossett 1984, "A flexible sampling-rate conversion method"). */

/** Zero crossings of the sinc on each side, and steps between two samples for which it is worked out. */
const REACH = 12
const PHASES = 128

/** Samples at `to` a second; what is too high for them is taken away. */
export function resample(samples: Float32Array, from: number, to: number): Float32Array {
  if (from === to) return samples
  const cut = Math.min(1, to / from) * 0.96
  const half = Math.ceil(REACH / cut)
  const taps = 2 * half + 1
  const kernels = Float32Array.from({ length: (PHASES + 1) * taps }, (_, k) => {
    const [phase, tap] = [Math.floor(k / taps), k % taps]
    return kernel(tap - half - phase / PHASES, cut, half + 1)
  })
  const out = new Float32Array(Math.floor((samples.length * to) / from))
  for (let k = 0; k < out.length; k++) {
    const place = (k * from) / to
    const base = Math.floor(place)
    const row = Math.round((place - base) * PHASES) * taps
    const first = Math.max(0, half - base)
    const end = Math.min(taps, samples.length - base + half)
    let sum = 0
    for (let tap = first; tap < end; tap++) sum += kernels[row + tap]! * samples[base - half + tap]!
    out[k] = sum
  }
  return out
}

function kernel(distance: number, cut: number, edge: number): number {
  const window = 0.5 + 0.5 * Math.cos((Math.PI * distance) / edge)
  const x = Math.PI * cut * distance
  return cut * window * (Math.abs(x) < 1e-9 ? 1 : Math.sin(x) / x)
}
