/** Commands on the meshes of pictures, and on the pins that share them. */
import { current } from 'immer'
import { z } from 'zod'
import { PictureId } from '../kernel/ids'
import { PictureMesh } from '../artwork/records'
import type { Deformer, DeformerOf } from './records'
import type { Part } from '../puppet/schema'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { locatorOf } from '../maths/geometry/meshLocator'

/** Gives a picture another mesh; pins that were set in the old one follow, stiffness by place. Refused where the mesh does not hold together. */
export const setPictureMesh = command(
  'picture.mesh',
  'Make mesh again',
  z.object({ picture: PictureId, mesh: PictureMesh }),
  (puppet, { picture, mesh }) => {
    const found = puppet.pictures[picture]
    if (!found) throw new EditError(`There is no picture "${picture}" in this puppet.`)
    const n = mesh.vertices.length / 2
    if (mesh.triangles.length < 3 || mesh.triangles.length % 3 !== 0 || mesh.triangles.some((v) => v >= n))
      throw new EditError('The mesh does not hold together.')
    const old = current(found).mesh
    found.mesh = mesh
    for (const part of Object.values(puppet.parts)) if (Object.values(part.art).includes(picture)) keepPinsWith(part, old, mesh)
  },
)

/** Pins whose mesh was that of their picture stay with it; stiffness is taken over by place. */
function keepPinsWith(part: Part, old: PictureMesh, mesh: PictureMesh): void {
  const isOld = (d: Deformer): d is DeformerOf<'pins'> =>
    d.kind === 'pins' && d.vertices.length === old.vertices.length && d.vertices.every((v, i) => v === old.vertices[i])
  for (const d of [part, ...Object.values(part.inViews)].flatMap((own) => own.deformers ?? [])) {
    if (!isOld(d)) continue
    d.stiffness = d.stiffness.every((s) => s === 1)
      ? new Array<number>(mesh.vertices.length / 2).fill(1)
      : sampledOver(old, [...d.stiffness], mesh.vertices)
    d.vertices = [...mesh.vertices]
    d.triangles = [...mesh.triangles]
  }
}

/** Values at the vertices of a mesh read at other spots. */
function sampledOver(mesh: PictureMesh, values: readonly number[], spots: readonly number[]): number[] {
  const locate = locatorOf(mesh)
  return Array.from({ length: spots.length / 2 }, (_, i) => {
    const { triangle, u, v, w } = locate(spots[2 * i]!, spots[2 * i + 1]!)
    const value = [u, v, w].reduce((sum, share, k) => sum + share * values[mesh.triangles[3 * triangle + k]!]!, 0)
    return Math.min(100, Math.max(0.01, value))
  })
}
