/** The mesh of the selected picture as it is seen, and what is done to it beside dragging its points. */
import {
  deleteMeshEdge,
  deleteMeshPoints,
  joinMeshPoints,
  meshEdges,
  MeshError,
  moveMeshPoints,
  splitMeshEdges,
} from '@marionette/core/meshing/edit'
import { pictureOf } from '@marionette/core/parts/pictures'
import type { Picture, PictureMesh, Puppet } from '@marionette/core/puppet/schema'
import type { Mesh } from '@marionette/core/maths/geometry/editableMesh'
import { apply } from '@marionette/core/maths/geometry/affine'
import { posedMap, type PosedMap } from '@marionette/core/puppet/posedMap'
import type { ToolHost } from '../../stage/tool'
import { openPuppet, perform } from '../../editor/document'
import { useSession } from '../../editor/session'
import { selectPoints, useTouch } from './settings'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { setPictureMesh } from '@marionette/core/deformers/meshCommands'
import { drawingOfPart } from '@marionette/core/puppet/rig'
import { partMap } from '@marionette/core/puppet/frame'
import { editorState, type Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

export interface MeshTarget {
  readonly part: string
  readonly picture: Picture
  /** [2n] vertices as they are seen, canvas px */
  readonly posed: Float64Array
  readonly map: PosedMap
}

/** The selected part with the picture that it shows itself. */
export function selectedPicture(editor: Editor, puppet: Puppet = openPuppet(editor)): { part: string; picture: Picture } | null {
  const { selection } = useSession.of(editor).getState()
  const part = selection.kind === 'part' ? puppet.parts[selection.ids[0] ?? ''] : undefined
  const picture = part?.content.kind === 'picture' ? pictureOf(puppet, part) : null
  return part && picture ? { part: part.id, picture } : null
}

interface Own {
  last: { key: readonly unknown[]; target: MeshTarget } | null
}

const stateOf = editorState((): Own => ({ last: null }))

/** The mesh of the selected picture in the present pose; null where none is selected. */
export function meshTarget({ editor, model: { frame } }: ToolHost): MeshTarget | null {
  const own = stateOf(editor)
  const found = selectedPicture(editor)
  const d = found ? drawingOfPart(frame.rig, found.part) : -1
  if (!found || d < 0) return null
  const key = [found.picture, found.part, frame, frame.revision]
  const { last } = own
  if (last && key.every((k, i) => k === last.key[i])) return last.target
  const m = partMap(frame, sure(frame.rig.parts.index.get(found.part)))
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
  own.last = { key, target }
  return target
}

/** The edit that gives a picture another mesh. */
export const meshEditOf = ({ id, mesh }: Picture, { vertices, triangles }: Mesh): Edit =>
  edit(setPictureMesh, { picture: id, mesh: { spacing: mesh.spacing, vertices: [...vertices], triangles: [...triangles] } })

/** Changes the mesh of the selected picture as one step; what cannot be done is said. */
export function changeMesh(editor: Editor, label: string, change: (mesh: PictureMesh, picture: Picture) => Mesh | null): boolean {
  const found = selectedPicture(editor)
  if (!found) return false
  try {
    const mesh = change(found.picture.mesh, found.picture)
    return mesh !== null && mesh !== found.picture.mesh && perform(editor, [meshEditOf(found.picture, mesh)], label)
  } catch (error) {
    if (!(error instanceof MeshError)) throw error
    editor.notify.error(error.message)
    return false
  }
}

/** Chosen points that the mesh still has. */
export function chosenVertices(editor: Editor, mesh: Mesh): number[] {
  const n = mesh.vertices.length / 2
  return [...useTouch.of(editor).getState().points].filter((v) => v < n)
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

export const joinVertices = (editor: Editor): boolean =>
  changeMesh(editor, 'Join points of the mesh', (mesh) => {
    const [a, b] = chosenVertices(editor, mesh)
    return a === undefined || b === undefined ? null : joinMeshPoints(mesh, a, b)
  })

/** Takes the chosen points away, or the chosen edge. */
export function deleteChosen(editor: Editor): boolean {
  const { edge } = useTouch.of(editor).getState()
  const isDone = edge
    ? changeMesh(editor, 'Turn an edge of the mesh', (mesh) => deleteMeshEdge(mesh, ...edge))
    : changeMesh(editor, 'Delete points of the mesh', (mesh) => {
        const points = chosenVertices(editor, mesh)
        return points.length > 0 ? deleteMeshPoints(mesh, points) : null
      })
  if (isDone) selectPoints(editor, [])
  return isDone
}

/** Splits the edges between the chosen points, or all of them. */
export const makeDenser = (editor: Editor): boolean =>
  changeMesh(editor, 'Make the mesh denser', (mesh) => {
    const points = new Set(chosenVertices(editor, mesh))
    const edges = meshEdges(mesh, points.size > 0 ? points : undefined)
    if (edges.size === 0) throw new MeshError('Choose points that have edges between them.')
    return splitMeshEdges(mesh, edges)
  })

export async function makeDenserWhereBent(editor: Editor): Promise<void> {
  const found = selectedPicture(editor)
  if (!found) return
  const { denserWhereBent } = await import('@marionette/core/meshing/refine')
  const mesh = denserWhereBent(openPuppet(editor), found.part, found.picture.mesh)
  if (mesh) perform(editor, [meshEditOf(found.picture, mesh)], 'Make the mesh denser where it bends')
  else editor.notify('Nothing bends this picture more than its mesh can follow.')
}
