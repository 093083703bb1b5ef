/** Automatic weights of a part: region, mesh and heat diffusion in one call. Runs in a worker in the application. */
import { restEnds } from './commands'
import type { BoneId, PartId } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import { drawingOf, drawnParts, restMatrix } from '../parts/tree'
import { invert, mapPoints } from '../maths/geometry/affine'
import { heatWeights } from '../maths/solve/heat'
import { meshRegion } from '../artwork/mesh'
import { piecesOf, polygonsArea, regionOf, type PlacedDrawing } from '../artwork/region'
import type { WeightField } from './records'
import { partsUnderBind } from './tree'
import type { TriangleMesh } from '../maths/geometry/triangleMesh'

/** Vertices that a part's mesh aims at. */
const WANTED_VERTICES = 700
const FINEST = 3

/** Drawings of parts, outlines for pictures, with their maps to the canvas at rest. */
export const placedDrawings = (puppet: Puppet, parts: readonly Part[]): PlacedDrawing[] =>
  parts.flatMap((p) => {
    const drawing = drawingOf(puppet, p)
    return drawing ? [{ drawing, map: restMatrix(puppet, p.id) }] : []
  })

/** Says in a sentence why a part cannot be weighed. */
export class WeightsError extends Error {}

/**
 * Weights of a part (with everything in it that has no bind of its own) for a set of bones.
 *
 * @param progress called with 0 to 1
 * @returns a field in the part's own space. Throws WeightsError.
 */
export function autoWeights(puppet: Puppet, part: PartId, bones: readonly BoneId[], progress?: (done: number) => void): WeightField {
  const { mesh, vertices } = bindMesh(puppet, part)
  progress?.(0.5)
  const rows = heatWeights(mesh, restEnds(puppet, bones), { progress: (done) => progress?.(0.6 + 0.4 * done) })
  return { vertices, triangles: mesh.triangles, ...rows }
}

/**
 * The mesh on which a part is weighed: over what it shows with everything in it that has no bind of its own.
 *
 * @param wanted number of vertices aimed at
 * @returns the mesh on the canvas at rest, and its vertices [2n] in the part's own space. Throws WeightsError.
 */
export function bindMesh(puppet: Puppet, part: PartId, wanted = WANTED_VERTICES): { mesh: TriangleMesh; vertices: number[] } {
  const name = puppet.parts[part]?.name ?? part
  const region = regionOf(placedDrawings(puppet, partsUnderBind(puppet, part)), 0.25)
  const area = polygonsArea(region)
  if (!(area > 1)) throw new WeightsError(`"${name}" shows nothing that could be bent.`)
  // A triangular lattice of spacing s has one vertex for each s²·√3/2 of area.
  const mesh = meshRegion(region, Math.max(FINEST, Math.sqrt((area * 2) / (wanted * Math.sqrt(3)))))
  if (mesh.triangles.length === 0) throw new WeightsError(`"${name}" is too thin to be bent.`)
  const into = invert(restMatrix(puppet, part))
  if (!into) throw new WeightsError(`"${name}" is flattened to a line.`)
  return { mesh, vertices: mapPoints(into, mesh.vertices) }
}

/** Bones that run through a part, proposed for a blended bind: more than half of the bone lies inside, and it has influence. */
export function proposeBones(puppet: Puppet, part: PartId): BoneId[] {
  const outer = piecesOf(placedDrawings(puppet, drawnParts(puppet, part)), 1).flatMap((rings) => rings.slice(0, 1))
  if (outer.length === 0) return []
  return Object.values(puppet.bones)
    .filter((bone) => {
      if (bone.influence.strength === 0) return false
      const inside = [0.1, 0.3, 0.5, 0.7, 0.9].filter((t) => {
        const x = bone.start.x + t * (bone.end.x - bone.start.x)
        const y = bone.start.y + t * (bone.end.y - bone.start.y)
        return outer.some((ring) => ring.slice(1).reduce((odd, q, i) => (crosses(ring[i]!, q, x, y) ? !odd : odd), false))
      })
      return inside.length >= 3
    })
    .map((bone) => bone.id)
}

/** Whether a ray to the right from (x, y) crosses the edge p q. */
const crosses = (p: readonly number[], q: readonly number[], x: number, y: number): boolean =>
  p[1]! > y !== q[1]! > y && x < p[0]! + ((y - p[1]!) / (q[1]! - p[1]!)) * (q[0]! - p[0]!)
