/** Commands on what parts show: merging groups into pictures, denser meshes, new artwork in the place of old. */
import { current } from 'immer'
import { z } from 'zod'
import { PartId, PictureId, ViewId } from '../document/ids'
import {
  Drawing,
  PartSource,
  Picture,
  PictureMesh,
  WeightField,
  type Deformer,
  type DeformerOf,
  type Part,
  type Puppet,
} from '../document/schema'
import { locatorOf } from '../rig/field'
import { command, EditError } from './command'
import { partOf } from './lookup'
import { dropUnusedArt } from './parts'
import { twinsOf } from './twins'

function addPicture(puppet: Puppet, picture: Picture): void {
  if (puppet.pictures[picture.id]) throw new EditError(`There is already a picture "${picture.id}".`)
  puppet.pictures[picture.id] = picture
}

/** Shows one picture in place of all that is in a group. What is in it stays in the puppet. */
export const mergeGroup = command(
  'part.merge',
  'Merge to one picture',
  z.object({ part: PartId, picture: Picture }),
  (puppet, { part, picture }) => {
    const group = partOf(puppet, part)
    if (group.content.kind !== 'group' || group.children.length === 0)
      throw new EditError(`"${group.name}" is no group with something in it.`)
    const old = group.merged
    addPicture(puppet, picture)
    group.merged = picture.id
    if (old !== null) dropUnusedArt(puppet, [old])
  },
)

/** Shows again what is in a merged group. */
export const unmergeGroup = command('part.unmerge', 'Take merging back', z.object({ part: PartId }), (puppet, { part }) => {
  const group = partOf(puppet, part)
  if (group.merged === null) throw new EditError(`"${group.name}" is not merged.`)
  const old = group.merged
  group.merged = null
  dropUnusedArt(puppet, [old])
})

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

/** Gives a part new artwork in a view; its place, pivot, bind and pose stay. `patterns` are what the drawing repeats. */
export const replaceArt = command(
  'part.art',
  'Replace artwork',
  z.object({
    part: PartId,
    view: ViewId,
    drawing: Drawing.nullable(),
    picture: Picture.nullable(),
    patterns: z.array(Drawing),
  }),
  (puppet, { part, view, drawing, picture, patterns }) => {
    const target = partOf(puppet, part)
    if (target.content.kind === 'group' && target.children.length > 0 && (drawing || picture))
      throw new EditError(`"${target.name}" is a group with parts in it and cannot show artwork itself.`)
    const old = target.art[view]
    const sharing = twinsOf(puppet, part).filter((p) => p.art[view] === old)
    for (const added of [...patterns, ...(drawing ? [drawing] : [])]) {
      if (puppet.drawings[added.id]) throw new EditError(`There is already a drawing "${added.id}".`)
      puppet.drawings[added.id] = added
    }
    if (picture) addPicture(puppet, picture)
    const shown = drawing ?? picture
    for (const one of sharing) {
      one.content = { kind: drawing ? 'drawing' : picture ? 'picture' : 'group' }
      delete one.art[view]
      if (shown) one.art[view] = shown.id
    }
    if (old !== undefined) dropUnusedArt(puppet, [old])
  },
)

export const setSource = command(
  'part.source',
  'Note where a part came from',
  z.object({ part: PartId, source: PartSource.nullable() }),
  (puppet, { part, source }) => {
    partOf(puppet, part).source = source
  },
)

/** Gives a blended bind another region with weights; its bones stay. */
export const setField = command(
  'bind.field',
  'Change weights',
  z.object({ part: PartId, field: WeightField }),
  (puppet, { part, field }) => {
    const { bind, name } = partOf(puppet, part)
    if (bind?.kind !== 'blended') throw new EditError(`"${name}" is not blended between bones.`)
    if (field.bones.some((b) => b >= bind.bones.length)) throw new EditError('The weights name a bone that is not in the list.')
    bind.field = field
  },
)
