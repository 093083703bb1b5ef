/** Colours in OKLab, in which equal steps look equal (Ottosson 2020). */

const toLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
const fromLinear = (v: number): number => (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055)

/** OKLab of a colour written as #rrggbb. */
export function labOf(colour: string): [number, number, number] {
  const [r, g, b] = [1, 3, 5].map((at) => toLinear(parseInt(colour.slice(at, at + 2), 16) / 255)) as [number, number, number]
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b)
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b)
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b)
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ]
}

/** Writes the sRGB of an OKLab colour, each 0 to 1, into `out` from `at` on; what no screen can show is brought to its rim. */
export function rgbOf(L: number, a: number, b: number, out: Float32Array | Float64Array, at = 0): void {
  const l = (L + 0.3963377774 * a + 0.2158037573 * b) ** 3
  const m = (L - 0.1055613458 * a - 0.0638541728 * b) ** 3
  const s = (L - 0.0894841775 * a - 1.291485548 * b) ** 3
  out[at] = clamped(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s)
  out[at + 1] = clamped(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s)
  out[at + 2] = clamped(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s)
}

/** A colour as #rrggbb, from red, green and blue of 0 to 1. */
export const hexOf = (r: number, g: number, b: number): string =>
  `#${[r, g, b]
    .map((v) =>
      Math.round(255 * v)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`

const clamped = (linear: number): number => Math.min(1, Math.max(0, fromLinear(Math.max(0, linear))))
