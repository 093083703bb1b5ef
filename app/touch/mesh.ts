/** The mesh of the selected picture as it is seen, and what is done to it beside dragging its points. */
import { toast } from 'sonner'
import {
  deleteMeshEdge,
  deleteMeshPoints,
  joinMeshPoints,
  meshEdges,
  MeshError,
  moveMeshPoints,
  splitMeshEdges,
} from '@marionette/core/artwork/meshEdit'
import { pictureOf } from '@marionette/core/document/pictures'
import type { Picture, PictureMesh, Puppet } from '@marionette/core/document/schema'
import { setPictureMesh } from '@marionette/core/edit/artwork'
import { edit, type Edit } from '@marionette/core/edit/command'
import type { Mesh } from '@marionette/core/geometry/editableMesh'
import { apply } from '@marionette/core/geometry/affine'
import { drawingOfPart } from '@marionette/core/rig/compile'
import { partMap } from '@marionette/core/rig/evaluate'
import { posedMap, type PosedMap } from '@marionette/core/rig/posedMap'
import type { ToolHost } from '../stage/tools/tool'
import { openPuppet, perform } from '../state/document'
import { useSession } from '../state/session'
import { selectPoints, useTouch } from '../state/touch'

export interface MeshTarget {
  readonly part: string
  readonly picture: Picture
  /** [2n] vertices as they are seen, canvas px */
  readonly posed: Float64Array
  readonly map: PosedMap
}

/** The selected part with the picture that it shows itself. */
export function selectedPicture(puppet: Puppet = openPuppet()): { part: string; picture: Picture } | null {
  const { selection } = useSession.getState()
  const part = selection.kind === 'part' ? puppet.parts[selection.ids[0] ?? ''] : undefined
  const picture = part?.content.kind === 'picture' ? pictureOf(puppet, part) : null
  return part && picture ? { part: part.id, picture } : null
}

let last: { key: readonly unknown[]; target: MeshTarget } | null = null

/** The mesh of the selected picture in the present pose; null where none is selected. */
export function meshTarget({ model: { frame } }: ToolHost): MeshTarget | null {
  const found = selectedPicture()
  const d = found ? drawingOfPart(frame.rig, found.part) : -1
  if (!found || d < 0) return null
  const key = [found.picture, found.part, frame, frame.revision]
  if (last && key.every((k, i) => k === last!.key[i])) return last.target
  const m = partMap(frame, frame.rig.parts.index.get(found.part)!)
  const { vertices } = found.picture.mesh
  const samples = frame.samples[d]
  const posed =
    frame.flexed[d] === 1 && samples?.length === vertices.length
      ? samples
      : Float64Array.from(
          Array.from({ length: vertices.length / 2 }, (_, v) => apply(m, { x: vertices[2 * v]!, y: vertices[2 * v + 1]! })).flatMap(
            ({ x, y }) => [x, y],
          ),
        )
  const target = { ...found, posed, map: posedMap(frame, found.part) }
  last = { key, target }
  return target
}

/** The edit that gives a picture another mesh. */
export const meshEditOf = ({ id, mesh }: Picture, { vertices, triangles }: Mesh): Edit =>
  edit(setPictureMesh, { picture: id, mesh: { spacing: mesh.spacing, vertices: [...vertices], triangles: [...triangles] } })

/** Changes the mesh of the selected picture as one step; what cannot be done is said. */
export function changeMesh(label: string, change: (mesh: PictureMesh, picture: Picture) => Mesh | null): boolean {
  const found = selectedPicture()
  if (!found) return false
  try {
    const mesh = change(found.picture.mesh, found.picture)
    return mesh !== null && mesh !== found.picture.mesh && perform([meshEditOf(found.picture, mesh)], label)
  } catch (error) {
    if (!(error instanceof MeshError)) throw error
    toast.error(error.message)
    return false
  }
}

/** Chosen points that the mesh still has. */
export function chosenVertices(mesh: Mesh): number[] {
  const n = mesh.vertices.length / 2
  return [...useTouch.getState().points].filter((v) => v < n)
}

/** Moves points to where they are wanted on the canvas, as far as no triangle turns over; null where their rest cannot be told. */
export function movedMesh({ picture: { mesh }, map }: MeshTarget, wanted: ReadonlyMap<number, { x: number; y: number }>): Mesh | null {
  const moves = new Map<number, [number, number]>()
  for (const [v, spot] of wanted) {
    const at = map.toPart(spot, { x: mesh.vertices[2 * v]!, y: mesh.vertices[2 * v + 1]! })
    if (!at) return null
    moves.set(v, [at.x, at.y])
  }
  return moveMeshPoints(mesh, moves)
}

export const joinVertices = (): boolean =>
  changeMesh('Join points of the mesh', (mesh) => {
    const [a, b] = chosenVertices(mesh)
    return a === undefined || b === undefined ? null : joinMeshPoints(mesh, a, b)
  })

/** Takes the chosen points away, or the chosen edge. */
export function deleteChosen(): boolean {
  const { edge } = useTouch.getState()
  const isDone = edge
    ? changeMesh('Turn an edge of the mesh', (mesh) => deleteMeshEdge(mesh, ...edge))
    : changeMesh('Delete points of the mesh', (mesh) => {
        const points = chosenVertices(mesh)
        return points.length > 0 ? deleteMeshPoints(mesh, points) : null
      })
  if (isDone) selectPoints([])
  return isDone
}

/** Splits the edges between the chosen points, or all of them. */
export const makeDenser = (): boolean =>
  changeMesh('Make the mesh denser', (mesh) => {
    const points = new Set(chosenVertices(mesh))
    const edges = meshEdges(mesh, points.size > 0 ? points : undefined)
    if (edges.size === 0) throw new MeshError('Choose points that have edges between them.')
    return splitMeshEdges(mesh, edges)
  })

export async function makeDenserWhereBent(): Promise<void> {
  const found = selectedPicture()
  if (!found) return
  const { denserWhereBent } = await import('@marionette/core/rig/denser')
  const mesh = denserWhereBent(openPuppet(), found.part, found.picture.mesh)
  if (mesh) perform([meshEditOf(found.picture, mesh)], 'Make the mesh denser where it bends')
  else toast('Nothing bends this picture more than its mesh can follow.')
}
