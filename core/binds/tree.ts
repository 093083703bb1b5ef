/** Which part is bound to what. Nothing here changes a document. */
import type { BoneId, PartId } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import type { Bind } from './records'
import { partPath, drawnParts, drawingOf } from '../parts/tree'

/** The part whose bind moves this one: itself or the nearest one above with a bind; none for scenery, which stands still. */
export function bindHolder(puppet: Puppet, part: PartId): Part | null {
  const path = partPath(puppet, part)
  if (puppet.stage.scenery.some((s) => path.some((p) => p.id === s.part))) return null
  return path.findLast((p) => p.bind !== null) ?? null
}

/** Parts that show something and move with a part's bind: below it, without a bind of their own in between. */
export function partsUnderBind(puppet: Puppet, holder: PartId): Part[] {
  return drawnParts(puppet, holder).filter((p) => drawingOf(puppet, p) && (p.id === holder || nearestHolder(puppet, p.id, holder)))
}

function nearestHolder(puppet: Puppet, part: PartId, holder: PartId): boolean {
  for (let id: PartId | null = part; id !== null && id !== holder; id = puppet.parts[id]!.parent) {
    if (puppet.parts[id]!.bind !== null) return false
  }
  return true
}

/** Bones that a bind names. */
export const bonesOfBind = (bind: Bind): readonly BoneId[] =>
  bind.kind === 'whole' ? [bind.bone] : bind.kind === 'blended' ? bind.bones : []

/** Parts that a bone moves, whole or blended. */
export const partsOfBone = (puppet: Puppet, bone: BoneId): Part[] =>
  Object.values(puppet.parts).filter((p) => p.bind !== null && bonesOfBind(p.bind).includes(bone))
