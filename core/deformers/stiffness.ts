/** Painting how stiff a mesh with pins is: a brush that works on the logarithm, so that twice and half are equally far. */

/** What a brush does to the stiffness of a mesh. */
export type StiffnessMode = 'stiffer' | 'softer' | 'even'

/** A brush for stiffness. */
export interface StiffnessBrush {
  readonly mode: StiffnessMode
  /** Canvas px. */
  readonly radius: number
  /** 0 to 1: how much a dab does in its middle. */
  readonly strength: number
}

/** Bounds of stiffness that the brush keeps: beyond them nothing more is seen of it. */
const SOFTEST = 0.05
const STIFFEST = 50
/** What a dab of full strength multiplies by. */
const STEP = Math.LN2

/**
 * Paints one dab about a spot, fading towards its rim.
 *
 * @param stiffness [n] changed in place
 * @param places [2n] where the vertices are seen
 * @returns whether it touched a vertex
 */
export function dabStiffness(
  stiffness: Float64Array,
  places: ArrayLike<number>,
  x: number,
  y: number,
  { mode, radius, strength }: StiffnessBrush,
): boolean {
  let isTouched = false
  for (let v = 0; v < stiffness.length; v++) {
    const t = 1 - Math.hypot(places[2 * v]! - x, places[2 * v + 1]! - y) / radius
    if (t <= 0) continue
    const share = strength * t * t * (3 - 2 * t)
    const now = Math.log(stiffness[v]!)
    const wanted = mode === 'even' ? now * (1 - share) : now + (mode === 'stiffer' ? STEP : -STEP) * share
    stiffness[v] = Math.min(STIFFEST, Math.max(SOFTEST, Math.exp(wanted)))
    isTouched = true
  }
  return isTouched
}
