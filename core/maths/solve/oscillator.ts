/**
 * A damped oscillator under a force that goes from one value to another in a straight line over each step:
 *
 *     x'' + 2 s x' + w2 x = f(t)
 *
 * The step is the exact solution (variation of constants; Meirovitch, Fundamentals of Vibrations, 2001, ch. 3), so it is stable for every
 * setting and as exact over one long step as over many short ones. All cases of damping are one formula: the free motion is told by C and
 * S, cosine and sine of the swing, or their hyperbolic counterparts where it creeps back without a swing.
 */

/** Seconds of one step. */
export const STEP = 1 / 240

/** Numbers of one step: x1 = x + v + f0 + f1, v1 = x + v + f0 + f1, each by its factor. */
export const STEP_SIZE = 8

/** Logarithm of what is left of a swing when it counts as settled: 2%. */
const SETTLED = Math.log(50)

export interface Rates {
  /** How fast the swing dies away, 1/s. */
  readonly decay: number
  /** Stiffness for a mass of 1, 1/s². */
  readonly stiffness: number
}

/**
 * Rates of a spring that swings so many times a second and has 2% of its swing left after so many seconds.
 *
 * @param tempo swings a second; 0 comes back without a swing
 * @param settle seconds, above 0
 */
export function ratesOf(tempo: number, settle: number): Rates {
  const decay = SETTLED / settle
  return { decay, stiffness: (2 * Math.PI * tempo) ** 2 + decay * decay }
}

/** Below this the swing of a step is told by a series: its formula would divide by next to nothing. */
const SMALL = 1e-4

/** Free motion over a time: C and S, both damped already. */
function freeMotion({ decay, stiffness }: Rates, h: number): { c: number; s: number } {
  const rest = stiffness - decay * decay
  const z = rest * h * h
  const damped = Math.exp(-decay * h)
  if (Math.abs(z) < SMALL) return { c: damped * (1 - z / 2 + (z * z) / 24), s: damped * h * (1 - z / 6 + (z * z) / 120) }
  if (rest > 0) {
    const w = Math.sqrt(rest)
    return { c: damped * Math.cos(w * h), s: (damped * Math.sin(w * h)) / w }
  }
  // Two ways of creeping back; written apart, so that neither grows beyond what numbers hold.
  const w = Math.sqrt(-rest)
  const [slow, fast] = [Math.exp((w - decay) * h), Math.exp((-w - decay) * h)]
  return { c: (slow + fast) / 2, s: (slow - fast) / (2 * w) }
}

/**
 * Works out the numbers of a step.
 *
 * @param h seconds, above 0
 * @param out [STEP_SIZE] from `at`; overwritten
 */
export function writeStep(rates: Rates, h: number, out: Float64Array, at = 0): void {
  const { decay, stiffness } = rates
  const { c, s } = freeMotion(rates, h)
  // Of the place, and of the speed, at the end by those at the beginning.
  const [xx, xv] = [c + decay * s, s]
  const [vx, vv] = [-stiffness * s, c - decay * s]
  out[at] = xx
  out[at + 1] = xv
  out[at + 4] = vx
  out[at + 5] = vv
  for (const [k, f0, f1] of [
    [2, 1, 0],
    [3, 0, 1],
  ] as const) {
    // The motion that follows the force: a straight line, behind it by what damping costs.
    const slope = (f1 - f0) / h / stiffness
    const from = f0 / stiffness - (2 * decay * slope) / stiffness
    out[at + k] = from + slope * h - xx * from - xv * slope
    out[at + 4 + k] = slope - vx * from - vv * slope
  }
}
