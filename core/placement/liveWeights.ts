/**
 * Weights while they are painted: the samples of what bends are given their new weights in place, dab by dab, so that
 * the pose shows them at once. Centres of rotation stay as they were; keeping the stroke makes everything anew.
 */
import type { WeightCanvas } from '../binds/weightBrush'
import type { PartId } from '../kernel/ids'
import { affineAt, apply, IDENTITY, invert, multiply } from '../maths/geometry/affine'
import type { Affine } from '../kernel/numbers'
import type { Weights } from './deformChain'
import { writeStrongest } from '../binds/field'
import { INFLUENCES } from '../binds/skin'
import { holderOf } from './posedWeights'
import { locatorOf } from '../maths/geometry/meshLocator'
import type { RigBase } from '../kernel/stage'
import type { DrawingsRig } from './bendStage'
import type { PartsRig } from './partsStage'

interface Followed {
  readonly weights: Weights
  readonly keptOffsets: Int32Array
  readonly keptWeights: Float64Array
  /** [3m] corners of the triangle in which each sample lies, and their shares */
  readonly corners: Int32Array
  readonly shares: Float64Array
  /** Samples that a vertex has a say in. */
  readonly ofVertex: readonly (readonly number[] | undefined)[]
}

/** Weights while they are painted: what is drawn follows each stroke before anything is stored. */
export class LiveWeights {
  private readonly followed: readonly Followed[]
  private readonly sum: Float64Array
  /** [m] last dab that a sample was weighed for */
  private readonly seen: Int32Array
  private round = 0

  /** @param part that holds the painted bind */
  constructor(
    rig: RigBase & PartsRig & DrawingsRig,
    part: PartId,
    private readonly canvas: WeightCanvas,
  ) {
    const at = rig.parts.index.get(part)!
    this.sum = new Float64Array(canvas.bones)
    const holder = affineAt(rig.parts.rest, 6 * at)
    this.followed = rig.drawings.flatMap(({ part: p, tessellation: soft }) => {
      if (!soft?.chain.blend || holderOf(rig, p) !== at) return []
      const toHolder = multiply(invert(holder) ?? IDENTITY, affineAt(rig.parts.rest, 6 * p))
      return [follow(canvas, soft.bent.samples, soft.fixed.weights!, toHolder)]
    })
    this.seen = new Int32Array(Math.max(1, ...this.followed.map((f) => f.shares.length / 3)))
  }

  /** Weighs the samples anew that painted vertices have a say in. */
  update(vertices: readonly number[]): void {
    for (const one of this.followed) {
      this.round++
      for (let i = 0; i < vertices.length; i++) {
        const samples = one.ofVertex[vertices[i]!]
        if (!samples) continue
        for (let k = 0; k < samples.length; k++) {
          const s = samples[k]!
          if (this.seen[s] === this.round) continue
          this.seen[s] = this.round
          this.weigh(one, s)
        }
      }
    }
  }

  private weigh({ weights, corners, shares }: Followed, sample: number): void {
    const { sum, canvas } = this
    const { rows, bones } = canvas
    for (let b = 0; b < bones; b++) {
      sum[b] = 0
      for (let k = 0; k < 3; k++) sum[b]! += shares[3 * sample + k]! * rows[corners[3 * sample + k]! * bones + b]!
    }
    writeStrongest(sum, weights.offsets, weights.weights, INFLUENCES * sample)
    for (let k = 0; k < INFLUENCES; k++) weights.offsets[INFLUENCES * sample + k]! *= 6
  }

  /** Puts everything back as it was before the first dab. */
  restore(): void {
    for (const { weights, keptOffsets, keptWeights } of this.followed) {
      weights.offsets.set(keptOffsets)
      weights.weights.set(keptWeights)
    }
  }
}

function follow(canvas: WeightCanvas, samples: Float64Array, weights: Weights, toHolder: Affine): Followed {
  const locate = locatorOf(canvas.field)
  const { triangles } = canvas.field
  const m = samples.length / 2
  const corners = new Int32Array(3 * m)
  const shares = new Float64Array(3 * m)
  const ofVertex: number[][] = []
  for (let s = 0; s < m; s++) {
    const at = apply(toHolder, { x: samples[2 * s]!, y: samples[2 * s + 1]! })
    const { triangle, u, v, w } = locate(at.x, at.y)
    shares.set([u, v, w], 3 * s)
    for (let k = 0; k < 3; k++) {
      const corner = triangles[3 * triangle + k]!
      corners[3 * s + k] = corner
      ;(ofVertex[corner] ??= []).push(s)
    }
  }
  return { weights, keptOffsets: weights.offsets.slice(), keptWeights: weights.weights.slice(), corners, shares, ofVertex }
}
