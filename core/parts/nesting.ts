/** Folding groups that group nothing. */
import { counted } from '../kernel/counted'
import { z } from 'zod'
import { PartId } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import { partsBelow, maskingParts } from './tree'
import { apply, invert, multiply, placementMatrix, placementOf } from '../maths/geometry/affine'
import { partOf, removeFrom } from './lookup'
import { command } from '../kernel/command'
import { sure } from '../kernel/sure'

/** Whether a part does nothing of its own: no mask, bind, deformer, opacity, effect, role, tag or comment. */
const isPlain = (part: Part): boolean =>
  part.visible &&
  part.opacity === 1 &&
  part.masks.length === 0 &&
  part.blend === 'normal' &&
  !part.isolated &&
  part.effect === null &&
  part.bind === null &&
  part.deformers.length === 0 &&
  part.merged === null &&
  part.role === null &&
  !part.locked &&
  part.tag === 0 &&
  part.comment === ''

/** An effect and deformers are measured in the group's own space, which it would lose. */
const canAbsorb = (group: Part, inner: Part): boolean => isPlain(inner) && group.effect === null && group.deformers.length === 0

/** Which of the two gives way: nothing is in the group, the group does nothing, or the part inside does nothing. */
type Folding = 'empty' | 'group' | 'inner'

/** Parts that others mean: they mask them, carry them, or are what a deformer acts on. */
function meantParts(puppet: Puppet): ReadonlySet<PartId> {
  const out = new Set(maskingParts(puppet))
  for (const { bind, deformers, inViews } of Object.values(puppet.parts)) {
    if (bind?.kind === 'attached') out.add(bind.to)
    const stacks = [deformers, ...Object.values(inViews).map((own) => own.deformers ?? [])]
    for (const id of stacks.flat().flatMap((d) => d.only ?? [])) out.add(id)
  }
  return out
}

/** How a part can be folded; null where it cannot: it groups something, is named or is meant by another part. */
function foldingOf(puppet: Puppet, group: Part, named: ReadonlySet<PartId>, meant: ReadonlySet<PartId>): Folding | null {
  if (group.parent === null || group.content.kind !== 'group' || group.merged !== null || meant.has(group.id)) return null
  const gives = isPlain(group) && !named.has(group.id)
  const [only, second] = group.children
  if (only === undefined) return gives ? 'empty' : null
  if (second !== undefined || meant.has(only)) return null
  if (gives) return 'group'
  return canAbsorb(group, partOf(puppet, only)) && !named.has(only) ? 'inner' : null
}

/**
 * Groups that can be folded: empty ones and those with a single part in them. Either the group or the part inside
 * gives way to the other, whichever has no name of its own.
 *
 * @param named parts that carry a name given by a person
 */
export function pointlessGroups(puppet: Puppet, named: ReadonlySet<PartId>): PartId[] {
  const meant = meantParts(puppet)
  return partsBelow(puppet, puppet.root)
    .filter((p) => foldingOf(puppet, p, named, meant) !== null)
    .map((p) => p.id)
}

/**
 * Folds groups with at most one part in them: the part takes the group's place, and the name goes with whichever of
 * the two is listed as named. Nothing moves on the canvas. Innermost groups fold first.
 */
export const foldGroups = command(
  'part.fold',
  'Fold nested groups',
  z.object({ groups: z.array(PartId).min(1), named: z.array(PartId) }),
  (puppet, { groups, named }) => {
    const own = new Set(named)
    const meant = meantParts(puppet)
    const deepestFirst = [...groups].reverse()
    for (const id of deepestFirst) fold(puppet, partOf(puppet, id), own, meant)
  },
)

/** What folding so many groups is called in a history. */
export const foldLabel = (count: number): string => `Fold ${counted(count, 'nested group')}`

function fold(puppet: Puppet, group: Part, named: ReadonlySet<PartId>, meant: ReadonlySet<PartId>): void {
  // A group that was moved in the pose does something.
  if ([group.id, ...group.children].some((id) => Object.keys(puppet.pose).some((a) => a.startsWith(`part/${id}/`)))) return
  const folding = foldingOf(puppet, group, named, meant)
  if (folding === null) return
  const parent = partOf(puppet, sure(group.parent))
  const inner = puppet.parts[group.children[0] ?? '']
  if (folding === 'group' && inner) return giveWay(puppet, group, inner, parent)
  if (folding === 'inner' && inner) return absorb(puppet, group, inner)
  removeFrom(parent.children, group.id)
  delete puppet.parts[group.id]
}

/** The part inside takes the place of the group. */
function giveWay(puppet: Puppet, group: Part, inner: Part, parent: Part): void {
  inner.home = placementOf(multiply(placementMatrix(group.home, group.pivot), placementMatrix(inner.home, inner.pivot)), inner.pivot)
  inner.parent = parent.id
  parent.children[parent.children.indexOf(group.id)] = inner.id
  delete puppet.parts[group.id]
}

/** The group takes over what the part inside shows. */
function absorb(puppet: Puppet, group: Part, inner: Part): void {
  const inside = placementMatrix(inner.home, inner.pivot)
  const back = invert(inside)
  if (!back) return
  const pivot = apply(back, group.pivot)
  group.home = placementOf(multiply(placementMatrix(group.home, group.pivot), inside), pivot)
  group.pivot = pivot
  // What it shows lies in the space of the part inside, as the file had that one.
  if (group.source && inner.source) group.source = { ...group.source, place: inner.source.place }
  group.content = inner.content
  group.art = inner.art
  group.children = inner.children
  for (const child of group.children) partOf(puppet, child).parent = group.id
  delete puppet.parts[inner.id]
}
