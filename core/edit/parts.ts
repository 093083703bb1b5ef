/** Commands on parts: order, names, visibility, pivots and homes. */
import { current } from 'immer'
import { z } from 'zod'
import { count } from '../document/basics'
import { addressesOfPart } from '../document/channels'
import { PartId } from '../document/ids'
import { newPart } from '../document/new'
import { Drawing, Name, Part, Picture, Placement, Vec, type Puppet } from '../document/schema'
import { maskCycle } from '../document/masks'
import { artworkOf, drawingsInUse, isWithinPart, partsBelow, picturesInUse, restMatrix, withPatterns } from '../document/tree'
import { invert, multiply, placementMatrix, placementOf } from '../geometry/affine'
import { command, EditError } from './command'
import { forgetPartsInDeformers } from './deformers'
import { insertAt, partOf, removeFrom } from './lookup'

const index = count
const notRoot = (puppet: Puppet, id: string, verb: string): void => {
  if (id === puppet.root) throw new EditError(`The topmost part cannot be ${verb}: everything hangs from it.`)
}

export const renamePart = command('part.rename', 'Rename part', z.object({ part: PartId, name: Name }), (puppet, { part, name }) => {
  partOf(puppet, part).name = name
})

export const showPart = command(
  'part.show',
  'Show or hide part',
  z.object({ parts: z.array(PartId).min(1), visible: z.boolean() }),
  (puppet, { parts, visible }) => {
    for (const part of parts) partOf(puppet, part).visible = visible
  },
)

export const setPartOpacity = command(
  'part.opacity',
  'Change opacity',
  z.object({ part: PartId, opacity: z.number().min(0).max(1) }),
  (puppet, { part, opacity }) => {
    partOf(puppet, part).opacity = opacity
  },
)

/** Hangs a part into another group without moving it on the canvas; index counts bottom to top among the others. */
export const movePart = command(
  'part.move',
  'Reorder parts',
  z.object({ part: PartId, parent: PartId, index }),
  (puppet, { part, parent, index: at }) => {
    notRoot(puppet, part, 'moved')
    const moved = partOf(puppet, part)
    const target = partOf(puppet, parent)
    if (isWithinPart(puppet, parent, part)) throw new EditError(`"${moved.name}" cannot go into itself.`)
    if (target.content.kind !== 'group') throw new EditError(`"${target.name}" is a ${target.content.kind}; parts go into groups.`)
    if (moved.parent !== parent) moved.home = homeUnder(puppet, part, parent)
    removeFrom(partOf(puppet, moved.parent!).children, part)
    insertAt(target.children, part, at)
    moved.parent = parent
    if (maskCycle(puppet)) throw new EditError(`"${moved.name}" would mask itself there.`)
  },
)

/** The home that keeps a part where it is on the canvas once it hangs under another parent. */
function homeUnder(puppet: Puppet, part: string, parent: string): Placement {
  const into = invert(restMatrix(puppet, parent))
  if (!into) throw new EditError(`"${partOf(puppet, parent).name}" is flattened to a line, nothing can be put into it.`)
  return placementOf(multiply(into, restMatrix(puppet, part)), partOf(puppet, part).pivot)
}

/** Puts parts of one parent into a new group that stands where the topmost of them stood. */
export const groupParts = command(
  'part.group',
  'Group parts',
  z.object({ parts: z.array(PartId).min(1), id: PartId, name: Name }),
  (puppet, { parts, id, name }) => {
    if (puppet.parts[id]) throw new EditError(`There is already a part "${id}".`)
    for (const part of parts) notRoot(puppet, part, 'grouped')
    const parent = partOf(puppet, partOf(puppet, parts[0]!).parent!)
    if (parts.some((p) => partOf(puppet, p).parent !== parent.id))
      throw new EditError('Only parts that hang from the same group can be grouped.')
    const inside = parent.children.filter((c) => parts.includes(c))
    const group = newPart(id, name)
    group.parent = parent.id
    group.children = [...inside]
    insertAt(parent.children, id, parent.children.indexOf(inside.at(-1)!) + 1)
    for (const part of inside) {
      removeFrom(parent.children, part)
      partOf(puppet, part).parent = id
    }
    puppet.parts[id] = group
  },
)

/** Takes a part and everything in it away; drawings that nothing shows any more go with it. */
export const deletePart = command('part.delete', 'Delete part', z.object({ part: PartId }), (puppet, { part }) => {
  notRoot(puppet, part, 'deleted')
  partOf(puppet, part)
  const gone = partsBelow(current(puppet), part)
  removeFrom(partOf(puppet, partOf(puppet, part).parent!).children, part)
  for (const p of gone) {
    delete puppet.parts[p.id]
    for (const address of addressesOfPart(p)) delete puppet.pose[address]
  }
  const missing = new Set(gone.map((p) => p.id))
  forgetParts(puppet, missing)
  for (const p of Object.values(puppet.parts)) {
    if (p.masks.some((m) => missing.has(m.shape))) p.masks = p.masks.filter((m) => !missing.has(m.shape))
  }
  dropUnusedArt(puppet, gone.flatMap(artworkOf))
})

/** Takes joints of parts that are gone away, and what hung on them off; a twin without its original is a part like any other. */
export function forgetParts(puppet: Puppet, gone: ReadonlySet<string>): void {
  for (const { id, under, over } of Object.values(puppet.joints)) if (gone.has(under) || gone.has(over)) delete puppet.joints[id]
  for (const p of Object.values(puppet.parts)) {
    if (p.twin && gone.has(p.twin.of)) p.twin = null
    if (p.bind?.kind === 'attached' && gone.has(p.bind.to)) p.bind = null
    forgetPartsInDeformers(puppet, p, gone)
  }
}

/** Takes those of some drawings and pictures away that nothing shows any more. */
export function dropUnusedArt(puppet: Puppet, art: readonly string[]): void {
  const drawings = drawingsInUse(puppet)
  for (const id of art.flatMap((a) => [...withPatterns(puppet, [a])])) if (!drawings.has(id)) delete puppet.drawings[id]
  const pictures = picturesInUse(puppet)
  for (const id of art) if (!pictures.has(id)) delete puppet.pictures[id]
}

/** Moves the spot where a part turns; the part itself stays where it is. `pivot` is in the part's own space. */
export const setPivot = command('part.pivot', 'Move pivot', z.object({ part: PartId, pivot: Vec }), (puppet, { part, pivot }) => {
  const p = partOf(puppet, part)
  p.home = placementOf(placementMatrix(p.home, p.pivot), pivot)
  p.pivot = pivot
})

/** Changes the placement to which the part returns. */
export const setHome = command('part.home', 'Move home', z.object({ part: PartId, home: Placement }), (puppet, { part, home }) => {
  partOf(puppet, part).home = home
})

/** A drawing from elsewhere follows swatches of its own puppet: those that are not here are forgotten. */
function forgetSwatches(puppet: Puppet, drawing: string): void {
  const known = new Map(puppet.palette.map((s) => [s.id, s.colour]))
  for (const { ink, line } of puppet.drawings[drawing]!.shapes)
    for (const paint of [ink?.paint, line?.paint])
      if (paint?.kind === 'flat' && paint.swatch !== undefined && known.get(paint.swatch) !== paint.colour) delete paint.swatch
}

/** Adds parts with their drawings under a group, as an import makes them. Parents come before children. */
export const addArtwork = command(
  'artwork.add',
  'Add artwork',
  z.object({ parent: PartId, parts: z.array(Part).min(1), drawings: z.array(Drawing), pictures: z.array(Picture).optional() }),
  (puppet, { parent, parts, drawings, pictures = [] }) => {
    for (const picture of pictures) {
      if (puppet.pictures[picture.id]) throw new EditError(`There is already a picture "${picture.id}".`)
      puppet.pictures[picture.id] = picture
    }
    for (const drawing of drawings) {
      if (puppet.drawings[drawing.id]) throw new EditError(`There is already a drawing "${drawing.id}".`)
      puppet.drawings[drawing.id] = drawing
      forgetSwatches(puppet, drawing.id)
    }
    for (const part of parts) {
      if (puppet.parts[part.id]) throw new EditError(`There is already a part "${part.id}".`)
      const bind = part.bind
      if (bind) throw new EditError(`"${part.name}" comes with a bind; artwork is bound after it was added.`)
      const shown = part.content.kind === 'picture' ? puppet.pictures : puppet.drawings
      if (Object.values(part.art).some((id) => !shown[id])) throw new EditError(`"${part.name}" shows artwork that is not there.`)
      if (part.merged !== null && !puppet.pictures[part.merged])
        throw new EditError(`"${part.name}" is merged into a picture that is not there.`)
      if (Object.keys(part.art).some((v) => !puppet.views.some((view) => view.id === v)))
        throw new EditError(`"${part.name}" is drawn for an unknown view.`)
      const under = part.parent ?? parent
      partOf(puppet, under).children.push(part.id)
      puppet.parts[part.id] = { ...part, parent: under, children: [] }
    }
    for (const { name, masks } of parts)
      if (masks.some((m) => !puppet.parts[m.shape])) throw new EditError(`"${name}" is masked by a part that is not there.`)
    if (maskCycle(puppet)) throw new EditError('A part of this artwork masks itself.')
  },
)
