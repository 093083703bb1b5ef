/** Commands that arrange several parts at once: moving, ungrouping, duplicating, naming. */
import { current } from 'immer'
import { z } from 'zod'
import { count, Name, type Affine } from '../kernel/numbers'
import { IdPrefix, PartId } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import { isWithinPart, partsBelow, restMatrix, topmostParts, maskingParts } from './tree'
import { invert, mapPoints, multiply, placementMatrix, placementOf } from '../maths/geometry/affine'
import { knownParts, partOf, removeFrom } from './lookup'
import { dropUnusedArt } from './commands'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import type { Copying } from '../kernel/copying'
import { sure } from '../kernel/sure'

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
      removeFrom(partOf(puppet, sure(partOf(puppet, id).parent)).children, id)
      partOf(puppet, id).parent = parent
    }
    target.children.splice(Math.min(index - before, target.children.length), 0, ...moved)
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
    if (group.masks.length > 0 || group.effect || group.blend !== 'normal' || isDeformed(group))
      throw new EditError(`"${group.name}" is masked, blended, deformed or has an effect as a whole; take that away first.`)
    if (masking.has(id)) throw new EditError(`"${group.name}" masks another part and has to stay.`)
    dissolve(puppet, group)
  }
})

const isDeformed = ({ deformers, inViews }: Part): boolean =>
  deformers.length > 0 || Object.values(inViews).some((own) => (own.deformers ?? []).length > 0)

function dissolve(puppet: Puppet, group: Part): void {
  const parent = partOf(puppet, sure(group.parent))
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
  if (group.merged !== null) dropUnusedArt(puppet, [group.merged])
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
  (puppet, { parts, prefix }, { copiedPart }) => {
    refuseRoot(puppet, parts, 'duplicated')
    const source = current(puppet)
    let next = 0
    for (const top of topmostParts(source, knownParts(puppet, parts))) {
      const copied = partsBelow(source, top)
      const ids = new Map(copied.map((p) => [p.id, `${prefix}-${++next}`]))
      const copying = inPlace(source, ids, prefix)
      for (const part of copied) {
        const copy = copiedPart(copyPart(puppet, source, part, ids, `${prefix}-${++next}`), copying)
        if (puppet.parts[copy.id]) throw new EditError(`There is already a part "${copy.id}".`)
        puppet.parts[copy.id] = copy
      }
      const copy = partOf(puppet, sure(ids.get(top)))
      copy.name = copyName(source, copy.name)
      const siblings = partOf(puppet, sure(copy.parent)).children
      siblings.splice(siblings.indexOf(top) + 1, 0, copy.id)
    }
  },
)

/** A copy right above its original. */
const inPlace = (source: Puppet, ids: ReadonlyMap<string, string>, prefix: string): Copying => ({
  ...{ source, mirrored: false, prefix },
  isCopied: (kind, id) => kind === 'part' && ids.has(id),
  renamed: (kind, id) => (kind === 'part' ? (ids.get(id) ?? id) : id),
  at: (v) => v,
  name: (name) => name,
})

/** A copy of a part with artwork of its own. */
function copyPart(puppet: Puppet, source: Puppet, part: Part, ids: ReadonlyMap<string, string>, artPrefix: string): Part {
  const renamed = (id: string): string => ids.get(id) ?? id
  const art = Object.fromEntries(Object.entries(part.art).map(([view, id], k) => [view, copyArt(puppet, source, id, `${artPrefix}-${k}`)]))
  return {
    ...part,
    id: renamed(part.id),
    parent: part.parent === null ? null : renamed(part.parent),
    children: part.children.map(renamed),
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

/** Renames several parts in one step. */
export const renameParts = command(
  'part.renameMany',
  'Rename parts',
  z.object({ names: z.array(z.object({ part: PartId, name: Name })).min(1) }),
  (puppet, { names }) => {
    for (const { part, name } of names) partOf(puppet, part).name = name
  },
)
