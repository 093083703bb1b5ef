/** Values along a line of knots: smoothly through them, without going beyond those they lie between. */

/**
 * Slopes at knots so that the cubic through them is monotone wherever the values are (Steffen 1990, "A simple method for
 * monotonic interpolation in one dimension"). Of fewer than two knots they are 0.
 *
 * @param xs [k] rising
 * @param values [k]
 * @param overshoots takes the slope of the parabola through three knots as it is; the way may go beyond the values
 */
export function slopesAlong(xs: readonly number[], values: readonly number[], overshoots: boolean): number[] {
  const n = xs.length
  if (n < 2) return values.map(() => 0)
  const step = (i: number): number => xs[i + 1]! - xs[i]!
  const chord = (i: number): number => (values[i + 1]! - values[i]!) / step(i)
  return values.map((_, i) => {
    if (i === 0) return endSlope(chord(0), n > 2 ? chord(1) : chord(0), n > 2 ? step(0) / (step(0) + step(1)) : 0, overshoots)
    if (i === n - 1) {
      const [last, before] = [chord(n - 2), n > 2 ? chord(n - 3) : chord(n - 2)]
      return endSlope(last, before, n > 2 ? step(n - 2) / (step(n - 2) + step(n - 3)) : 0, overshoots)
    }
    return slopeBetween(step(i - 1), step(i), chord(i - 1), chord(i), overshoots)
  })
}

/** The slope at a knot between two others: of the steps to them and the chords there. */
export function slopeBetween(before: number, after: number, s: number, t: number, overshoots: boolean): number {
  const parabola = (s * after + t * before) / (before + after)
  if (overshoots) return parabola
  if (s * t <= 0) return 0
  return Math.sign(s) * 2 * Math.min(Math.abs(s), Math.abs(t), Math.abs(parabola) / 2)
}

/** The slope at an end, from the chord there and the next one. */
function endSlope(chord: number, next: number, share: number, overshoots: boolean): number {
  const parabola = chord + (chord - next) * share
  if (overshoots) return parabola
  if (parabola * chord <= 0) return 0
  return Math.abs(parabola) > 2 * Math.abs(chord) ? 2 * chord : parabola
}

/** How far a curve from (0, 0) to (1, 1) with handles has risen at a share of its way along x, 0 to 1. */
export function riseAt(curve: Handles, share: number): number {
  const place = [share]
  rise(curve, place, 0)
  return place[0]!
}

/** x and y of two handles. */
type Handles = readonly [number, number, number, number]

/** Replaces a share of the way along x by how far the curve has risen there; a number that is returned would be an object. */
export function rise([x1, y1, x2, y2]: Handles, place: Float64Array | number[], at: number): void {
  const share = place[at]!
  if (share <= 0 || share >= 1) return void (place[at] = share <= 0 ? 0 : 1)
  // x rises with t: halving finds t to 1e-12.
  let low = 0
  let high = 1
  for (let round = 0; round < 40; round++) {
    const t = (low + high) / 2
    if (bezier(x1, x2, t) < share) low = t
    else high = t
  }
  place[at] = bezier(y1, y2, (low + high) / 2)
}

const bezier = (a: number, b: number, t: number): number => 3 * (1 - t) * (1 - t) * t * a + 3 * (1 - t) * t * t * b + t * t * t
