/** Binds: how artwork follows bones, and the weights of those that follow several. */
import { z } from 'zod'
import { count, finite } from '../kernel/numbers'
import { BoneId, PartId } from '../kernel/ids'

// ---- rig

/**
 * Influences of bones over a region: a triangulation of the region with, for each vertex, up to four bones.
 * `vertices` [2n] in the bound part's own space; `triangles` [3t]; `starts` [n+1], `bones` and `weights` are
 * compressed rows: vertex i has entries starts[i] to starts[i+1], bones index the bind's own list, and the
 * weights of a row sum to 1.
 */
export const WeightField = z.object({
  vertices: z.array(finite),
  triangles: z.array(count),
  starts: z.array(count),
  bones: z.array(count),
  weights: z.array(z.number().min(0).max(1)),
})

export type WeightField = z.infer<typeof WeightField>

/** How artwork follows bones or another part. */
export const Bind = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('whole'), bone: BoneId }),
  z.object({
    kind: z.literal('blended'),
    /** `volume` turns each spot about its own centre and keeps its breadth; `linear` blends the maps of the bones. */
    mode: z.enum(['volume', 'linear']),
    bones: z.array(BoneId).min(1),
    field: WeightField,
    /** Rest ends of `bones` [4b] (start x,y, end x,y) when the weights were made: tells when they are out of date. */
    madeAt: z.array(finite),
  }),
  /**
   * Hangs on another part: `carried` rigidly with the spot under its pivot, `pivoting` with the spot but not with its
   * turn, `fused` bent as if both were one piece.
   */
  z.object({ kind: z.literal('attached'), to: PartId, how: z.enum(['carried', 'pivoting', 'fused']) }),
])

export type Bind = z.infer<typeof Bind>
