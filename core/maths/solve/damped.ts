/** Damped least squares for a few equations in more unknowns (Levenberg 1944, Marquardt 1963; for limbs Wampler 1986). */

/**
 * The step x that brings J x near to r without being large: x = M Jᵀ (J M Jᵀ + λ W⁻²)⁻¹ r.
 *
 * @param jacobian [r][v] rows
 * @param residual [r]
 * @param mobility [v] how readily each unknown moves; 0 for one that does not
 * @param weights [r] how much each equation counts
 * @param damping λ, above 0
 * @returns [v]
 */
export function dampedStep(
  jacobian: readonly Float64Array[],
  residual: Float64Array,
  mobility: Float64Array,
  weights: Float64Array,
  damping: number,
): Float64Array {
  const rows = jacobian.length
  const system = Array.from({ length: rows }, (_, i) => {
    const row = new Float64Array(rows)
    for (let k = 0; k <= i; k++) for (let v = 0; v < mobility.length; v++) row[k]! += jacobian[i]![v]! * mobility[v]! * jacobian[k]![v]!
    row[i]! += damping / (weights[i]! * weights[i]!)
    return row
  })
  const y = solveSymmetric(system, residual)
  const out = new Float64Array(mobility.length)
  for (let v = 0; v < out.length; v++) {
    for (let i = 0; i < rows; i++) out[v]! += jacobian[i]![v]! * y[i]!
    out[v]! *= mobility[v]!
  }
  return out
}

/** Solves A y = b by Cholesky in place; `lower` holds the lower triangle of a positive definite A. */
function solveSymmetric(lower: readonly Float64Array[], b: Float64Array): Float64Array {
  const n = b.length
  const y = b.slice()
  for (let i = 0; i < n; i++) {
    for (let k = 0; k <= i; k++) {
      let sum = lower[i]![k]!
      for (let j = 0; j < k; j++) sum -= lower[i]![j]! * lower[k]![j]!
      lower[i]![k] = i === k ? Math.sqrt(Math.max(sum, 1e-300)) : sum / lower[k]![k]!
    }
    for (let j = 0; j < i; j++) y[i]! -= lower[i]![j]! * y[j]!
    y[i]! /= lower[i]![i]!
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let j = i + 1; j < n; j++) y[i]! -= lower[j]![i]! * y[j]!
    y[i]! /= lower[i]![i]!
  }
  return y
}
