/** A new alternate from one that there is. Twins of the swap get it as well: it shares its drawings with theirs. */
import type { PartId } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import { partsBelow } from '../parts/tree'
import { duplicateParts } from '../parts/arrange'
import { applyEdits } from '../puppet/edit'
import { otherSide } from '../kernel/sides'
import { edit, type Edit } from '../kernel/command'
import { addArtwork } from '../puppet/artworkCommands'
import { sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'

/** Swaps that share their drawings with one: its twins, or its original and the other twins of that. */
function sharers(puppet: Puppet, swap: PartId): Part[] {
  const original = partOf(puppet, swap).twin?.of ?? swap
  return Object.values(puppet.parts).filter((p) => p.id !== swap && p.swap !== null && (p.id === original || p.twin?.of === original))
}

/**
 * The edits for it.
 *
 * @param from the alternate that it is a copy of
 * @param prefix what new ids begin with
 */
export function newAlternateEdits(puppet: Puppet, swap: PartId, from: PartId, prefix: string): Edit[] {
  const duplicate = edit(duplicateParts, { parts: [from], prefix })
  const after = applyEdits(puppet, [duplicate]).puppet
  const made = sure(partOf(after, swap).children.find((id) => !puppet.parts[id]))
  const copied = partsBelow(after, made)
  return [
    duplicate,
    ...sharers(puppet, swap).map((twin, n) => {
      const ids = new Map(copied.map((p, k) => [p.id, `${prefix}-t${n + 1}-${k + 1}`]))
      const parts = copied.map((p) => sharedPart(puppet, twin, p, ids))
      return edit(addArtwork, { parent: twin.id, parts, drawings: [] })
    }),
  ]
}

function sharedPart(puppet: Puppet, twin: Part, part: Part, ids: ReadonlyMap<PartId, PartId>): Part {
  const mirrored = twin.twin?.mirrored ?? Object.values(puppet.parts).some((p) => p.twin?.of === twin.id && p.twin.mirrored)
  return {
    ...part,
    id: sure(ids.get(part.id)),
    parent: ids.get(sure(part.parent)) ?? twin.id,
    children: [],
    name: (mirrored && otherSide(part.name)) || part.name,
    masks: part.masks.map((m) => ({ ...m, shape: ids.get(m.shape) ?? m.shape })),
    // It follows what the alternates beside it follow.
    bind: null,
    deformers: [],
    inViews: {},
    role: null,
    twin: { of: part.id, mirrored },
  }
}
