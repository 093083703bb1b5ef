/** Commands on parts: order, names, visibility, pivots and homes. */
import { current } from 'immer'
import { z } from 'zod'
import { count, Name, Vec } from '../kernel/numbers'
import { PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { artworkOf, drawingsInUse, isWithinPart, partsBelow, picturesInUse, restMatrix, withPatterns } from './tree'
import { invert, multiply, placementMatrix, placementOf } from '../maths/geometry/affine'
import { insertAt, partOf, removeFrom } from './lookup'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { newPart } from './new'
import { Placement } from './records'
import { nth, sure } from '../kernel/sure'

const index = count
const notRoot = (puppet: Puppet, id: string, verb: string): void => {
  if (id === puppet.root) throw new EditError(`The topmost part cannot be ${verb}: everything hangs from it.`)
}

/** Renames a part. */
export const renamePart = command('part.rename', 'Rename part', z.object({ part: PartId, name: Name }), (puppet, { part, name }) => {
  partOf(puppet, part).name = name
})

/** Shows or hides parts. */
export const showPart = command(
  'part.show',
  'Show or hide part',
  z.object({ parts: z.array(PartId).min(1), visible: z.boolean() }),
  (puppet, { parts, visible }) => {
    for (const part of parts) partOf(puppet, part).visible = visible
  },
)

/** Sets the opacity of parts, 0 to 1. */
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
    removeFrom(partOf(puppet, sure(moved.parent)).children, part)
    insertAt(target.children, part, at)
    moved.parent = parent
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
    const parent = partOf(puppet, sure(partOf(puppet, nth(parts, 0)).parent))
    if (parts.some((p) => partOf(puppet, p).parent !== parent.id))
      throw new EditError('Only parts that hang from the same group can be grouped.')
    const inside = parent.children.filter((c) => parts.includes(c))
    const group = newPart(id, name)
    group.parent = parent.id
    group.children = [...inside]
    insertAt(parent.children, id, parent.children.indexOf(nth(inside, -1)) + 1)
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
  removeFrom(partOf(puppet, sure(partOf(puppet, part).parent)).children, part)
  for (const p of gone) delete puppet.parts[p.id]
  dropUnusedArt(puppet, gone.flatMap(artworkOf))
})

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
