/** Pieces that builders make out of a part: they go where it goes, and lie next to it. */
import type { PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { bindAttached, bindWhole } from '../binds/commands'
import { edit, type Edit } from '../kernel/command'
import { partOf } from '../parts/lookup'
import { isWithinPart } from '../parts/tree'

/** Edits that let a new part go with what another one is bound to; none where that moves with its group alone. */
export function boundAs(puppet: Puppet, like: PartId, part: PartId): Edit[] {
  const { bind } = partOf(puppet, like)
  if (!bind) return []
  if (bind.kind === 'whole') return [edit(bindWhole, { parts: [part], bone: bind.bone })]
  // Weights belong to the other part's own mesh.
  return [
    bind.kind === 'attached'
      ? edit(bindAttached, { parts: [part], to: bind.to, how: bind.how })
      : edit(bindAttached, { parts: [part], to: like, how: 'fused' }),
  ]
}

/** Where a new part comes to lie in a group: above all of those that are in it, however deep. */
export function aboveThose(puppet: Puppet, parent: PartId, parts: readonly PartId[]): number {
  const { children } = partOf(puppet, parent)
  return 1 + Math.max(...parts.map((p) => children.findIndex((child) => isWithinPart(puppet, p, child))))
}
