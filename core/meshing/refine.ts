/** Meshes of pictures made denser where the picture bends. */
import { meshEdges, splitMeshEdges } from './edit'
import type { PictureMesh } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import type { PartId } from '../kernel/ids'
import { distanceToPolyline } from '../maths/geometry/polyline'
import { compile } from '../puppet/compile'
import { meanEdge } from '../deformers/pins'
import { drawingOfPart } from '../puppet/rig'
import type { Tessellation } from '../placement/tessellate'

/** Distance of the middle of an edge from the true bend at which the edge is split, canvas px at 100%. */
const STRAY = 1
const ROUNDS = 3
/** Points of a mesh beyond which it is made no denser. */
const MOST = 6000
/** Edges about a pin that are split, as multiples of the mean edge. */
const ABOUT_PIN = 1.5

/**
 * The mesh of a picture part, its edges split wherever, in poses that bend hard what bends it, their middles stray from the
 * straight line between their ends, and once about each pin.
 *
 * @returns null where nothing bends the part, or nothing of it strays
 */
export function denserWhereBent(puppet: Puppet, part: PartId, mesh: PictureMesh): PictureMesh | null {
  const rig = compile(puppet)
  const soft = rig.drawings[drawingOfPart(rig, part)]?.tessellation
  if (!soft) return null
  const pins = puppet.parts[part]!.deformers.flatMap((d) => (d.kind === 'pins' ? d.pins : []))
  const spots = pins.map(({ at, end }) => [at.x, at.y, end?.x ?? at.x, end?.y ?? at.y])
  let now: PictureMesh = mesh
  const about = ABOUT_PIN * meanEdge(mesh)
  for (let round = 0; round < ROUNDS && now.vertices.length / 2 < MOST; round++) {
    const marked = strayingEdges(soft, now)
    if (round === 0) for (const key of edgesAbout(now, spots, about)) marked.add(key)
    if (marked.size === 0) break
    now = { spacing: mesh.spacing, ...mutable(splitMeshEdges(now, marked)) }
  }
  return now === mesh ? null : now
}

const mutable = ({ vertices, triangles }: { readonly vertices: readonly number[]; readonly triangles: readonly number[] }) => ({
  vertices: [...vertices],
  triangles: [...triangles],
})

const endsOf = (key: string): [number, number] => key.split(',').map(Number) as [number, number]

/** Edges of which the middle is bent away from between their ends. */
function strayingEdges({ tryOut }: Tessellation, mesh: PictureMesh): Set<string> {
  const edges = [...meshEdges(mesh)]
  const points = new Float64Array(6 * edges.length)
  edges.forEach((key, i) => {
    const [a, b] = endsOf(key)
    for (const axis of [0, 1]) {
      const [p, q] = [mesh.vertices[2 * a + axis]!, mesh.vertices[2 * b + axis]!]
      points[6 * i + axis] = p
      points[6 * i + 2 + axis] = q
      points[6 * i + 4 + axis] = (p + q) / 2
    }
  })
  const out = new Set<string>()
  for (const posed of tryOut(points))
    edges.forEach((key, i) => {
      const off = [0, 1].map((axis) => posed[6 * i + 4 + axis]! - (posed[6 * i + axis]! + posed[6 * i + 2 + axis]!) / 2)
      if (Math.hypot(off[0]!, off[1]!) > STRAY) out.add(key)
    })
  return out
}

/** Edges with an end near one of some stretches. */
function edgesAbout(mesh: PictureMesh, stretches: readonly (readonly number[])[], reach: number): string[] {
  const isNear = Array.from({ length: mesh.vertices.length / 2 }, (_, v) =>
    stretches.some((s) => distanceToPolyline(s, false, mesh.vertices[2 * v]!, mesh.vertices[2 * v + 1]!) <= reach),
  )
  return [...meshEdges(mesh)].filter((key) => endsOf(key).some((v) => isNear[v]))
}
