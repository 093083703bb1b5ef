/** Commands that arrange several parts at once: moving, ungrouping, duplicating, naming. */
import { current } from 'immer'
import { z } from 'zod'
import { count } from '../document/basics'
import { deformersInViews } from '../document/channels'
import { IdPrefix, PartId } from '../document/ids'
import { maskCycle, maskingParts } from '../document/masks'
import { Name, Naming, type Affine, type Part, type Puppet } from '../document/schema'
import { isWithinPart, partsBelow, restMatrix, topmostParts } from '../document/tree'
import { invert, mapPoints, multiply, placementMatrix, placementOf } from '../geometry/affine'
import { convertName } from '../roles/naming'
import { command, EditError } from './command'
import { deformersUnder } from './deformers'
import { knownParts, partOf, removeFrom } from './lookup'
import { dropUnusedArt, forgetParts } from './parts'
import { mapped } from './records'

const some = z.array(PartId).min(1)

function refuseRoot(puppet: Puppet, parts: readonly string[], verb: string): void {
  if (parts.includes(puppet.root)) throw new EditError(`The topmost part cannot be ${verb}: everything hangs from it.`)
}

/** Hangs parts into a group one above the other, in the order in which they are painted; nothing moves on the canvas. */
export const moveParts = command(
  'part.moveMany',
  'Reorder parts',
  z.object({ parts: some, parent: PartId, index: count }),
  (puppet, { parts, parent, index }) => {
    refuseRoot(puppet, parts, 'moved')
    const target = partOf(puppet, parent)
    if (target.content.kind !== 'group') throw new EditError(`"${target.name}" is a ${target.content.kind}; parts go into groups.`)
    const moved = inOrder(puppet, parts)
    for (const id of moved) {
      if (isWithinPart(puppet, parent, id)) throw new EditError(`"${partOf(puppet, id).name}" cannot go into itself.`)
      rehang(puppet, partOf(puppet, id), target)
    }
    // What was taken from below the place lets it slip down.
    const before = target.children.slice(0, index).filter((c) => moved.includes(c)).length
    for (const id of moved) {
      removeFrom(partOf(puppet, partOf(puppet, id).parent!).children, id)
      partOf(puppet, id).parent = parent
    }
    target.children.splice(Math.min(index - before, target.children.length), 0, ...moved)
    if (maskCycle(puppet)) throw new EditError('A part would mask itself there.')
  },
)

/** The topmost of some parts in painting order. */
function inOrder(puppet: Puppet, parts: readonly string[]): string[] {
  const wanted = new Set(topmostParts(puppet, knownParts(puppet, parts)))
  return partsBelow(puppet, puppet.root)
    .map((p) => p.id)
    .filter((id) => wanted.has(id))
}

/** Gives a part the home that keeps it where it is under another parent. */
function rehang(puppet: Puppet, part: Part, parent: Part): void {
  if (part.parent === parent.id) return
  const into = invert(restMatrix(puppet, parent.id))
  if (!into) throw new EditError(`"${parent.name}" is flattened to a line, nothing can be put into it.`)
  part.home = placementOf(multiply(into, restMatrix(puppet, part.id)), part.pivot)
}

/** Puts what is in groups in the place of the groups, which go. Opacity, blend mode and binds of a group are handed down. */
export const ungroupParts = command('part.ungroup', 'Ungroup', z.object({ parts: some }), (puppet, { parts }) => {
  refuseRoot(puppet, parts, 'ungrouped')
  const masking = maskingParts(puppet)
  for (const id of parts) {
    const group = partOf(puppet, id)
    if (group.content.kind !== 'group') throw new EditError(`"${group.name}" is no group.`)
    if (group.masks.length > 0 || group.effect || group.blend !== 'normal' || deformersInViews(group).length > 0)
      throw new EditError(`"${group.name}" is masked, blended, deformed or has an effect as a whole; take that away first.`)
    if (masking.has(id)) throw new EditError(`"${group.name}" masks another part and has to stay.`)
    dissolve(puppet, group)
  }
})

function dissolve(puppet: Puppet, group: Part): void {
  const parent = partOf(puppet, group.parent!)
  const outer = placementMatrix(group.home, group.pivot)
  for (const id of group.children) {
    const child = partOf(puppet, id)
    const inner = placementMatrix(child.home, child.pivot)
    child.home = placementOf(multiply(outer, inner), child.pivot)
    child.parent = parent.id
    child.opacity *= group.opacity
    child.bind ??= bindInside(group.bind, inner)
    if (!group.visible) child.visible = false
  }
  parent.children.splice(parent.children.indexOf(group.id), 1, ...group.children)
  delete puppet.parts[group.id]
  forgetParts(puppet, new Set([group.id]))
  if (group.merged !== null) dropUnusedArt(puppet, [group.merged])
  for (const address of Object.keys(puppet.pose)) if (address.startsWith(`part/${group.id}/`)) delete puppet.pose[address]
}

/** The bind of a group as that of a part in it, whose space `inner` takes to the group's. */
function bindInside(bind: Part['bind'], inner: Affine): Part['bind'] {
  const back = invert(inner)
  if (bind?.kind !== 'blended' || !back) return bind
  return { ...bind, field: { ...bind.field, vertices: mapPoints(back, bind.field.vertices) } }
}

/** Copies parts with all in them, each right above its original. `prefix` begins the new ids. */
export const duplicateParts = command(
  'part.duplicate',
  'Duplicate',
  z.object({ parts: some, prefix: IdPrefix }),
  (puppet, { parts, prefix }) => {
    refuseRoot(puppet, parts, 'duplicated')
    const source = current(puppet)
    let next = 0
    for (const top of topmostParts(source, knownParts(puppet, parts))) {
      const copied = partsBelow(source, top)
      const ids = new Map(copied.map((p) => [p.id, `${prefix}-${++next}`]))
      for (const part of copied) {
        const copy = copyPart(puppet, source, part, ids, `${prefix}-${++next}`)
        if (puppet.parts[copy.id]) throw new EditError(`There is already a part "${copy.id}".`)
        puppet.parts[copy.id] = copy
      }
      const copy = puppet.parts[ids.get(top)!]!
      copy.name = copyName(source, copy.name)
      const siblings = partOf(puppet, copy.parent!).children
      siblings.splice(siblings.indexOf(top) + 1, 0, copy.id)
    }
  },
)

/** A copy of a part with artwork of its own. */
function copyPart(puppet: Puppet, source: Puppet, part: Part, ids: ReadonlyMap<string, string>, artPrefix: string): Part {
  const renamed = (id: string): string => ids.get(id) ?? id
  const to = { bone: (id: string) => id, part: renamed }
  const art = Object.fromEntries(Object.entries(part.art).map(([view, id], k) => [view, copyArt(puppet, source, id, `${artPrefix}-${k}`)]))
  return {
    ...part,
    id: renamed(part.id),
    parent: part.parent === null ? null : renamed(part.parent),
    children: part.children.map(renamed),
    masks: part.masks.map((m) => ({ ...m, shape: renamed(m.shape) })),
    bind: part.bind?.kind === 'attached' ? { ...part.bind, to: renamed(part.bind.to) } : part.bind,
    deformers: deformersUnder(renamed(part.id), part.deformers, to),
    inViews: mapped(part.inViews, (own) => ({
      ...own,
      ...(own.deformers && { deformers: deformersUnder(renamed(part.id), own.deformers, to) }),
    })),
    art,
    twin: null,
    merged: part.merged === null ? null : copyArt(puppet, source, part.merged, `${artPrefix}-merged`),
  }
}

function copyArt(puppet: Puppet, source: Puppet, id: string, copy: string): string {
  const [drawing, picture] = [source.drawings[id], source.pictures[id]]
  if (drawing) puppet.drawings[copy] = { ...drawing, id: copy }
  else if (picture) puppet.pictures[copy] = { ...picture, id: copy }
  return copy
}

/** `Hand copy`, or with a number where that is taken. */
function copyName(puppet: Puppet, name: string): string {
  const taken = new Set(Object.values(puppet.parts).map((p) => p.name))
  const stem = `${name.replace(/ copy( \d+)?$/, '').slice(0, 190)} copy`
  let n = 1
  while (taken.has(n === 1 ? stem : `${stem} ${n}`)) n++
  return n === 1 ? stem : `${stem} ${n}`
}

export const renameParts = command(
  'part.renameMany',
  'Rename parts',
  z.object({ names: z.array(z.object({ part: PartId, name: Name })).min(1) }),
  (puppet, { names }) => {
    for (const { part, name } of names) partOf(puppet, part).name = name
  },
)

/** Changes the naming convention with all names of parts and bones that say a side. */
export const convertNaming = command(
  'puppet.convertNaming',
  'Convert names of sides',
  z.object({ to: Naming, facing: z.enum(['left', 'right']) }),
  (puppet, { to, facing }) => {
    for (const thing of [...Object.values(puppet.parts), ...Object.values(puppet.bones)])
      thing.name = convertName(thing.name, puppet.naming, to, facing)
    puppet.naming = to
  },
)
