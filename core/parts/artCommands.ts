/** Commands on what parts show: merging groups into pictures, denser meshes, new artwork in the place of old. */
import { z } from 'zod'
import { PartId, ViewId } from '../kernel/ids'
import { Drawing, Picture } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { partOf } from './lookup'
import { dropUnusedArt } from './commands'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { PartSource } from './records'
import { twinsOf } from './tree'

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

/** Remembers from which layer of a file a part came. */
export const setSource = command(
  'part.source',
  'Note where a part came from',
  z.object({ part: PartId, source: PartSource.nullable() }),
  (puppet, { part, source }) => {
    partOf(puppet, part).source = source
  },
)
