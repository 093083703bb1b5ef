/** Chains of limbs and paths where bones are put in. */
import { boneOf } from '../bones/lookup'
import { EditError } from '../kernel/errors'
import type { Puppet } from '../puppet/schema'
import { MOST_CHAINED } from './records'

/**
 * Bones were put in right below another one: limbs and paths that went on below it, or ended with it, go through them.
 *
 * @param ended whether a chain that ended with the bone ends with the last of them now
 */
export function threadChains(puppet: Puppet, below: string, ids: readonly string[], ended: boolean): void {
  for (const c of puppet.constraints) {
    if (c.kind !== 'reach' && c.kind !== 'path') continue
    const at = c.bones.indexOf(below)
    const isLast = at === c.bones.length - 1
    if (at < 0 || (isLast && !ended && !(c.kind === 'reach' && c.level !== null))) continue
    const next = isLast ? (c.kind === 'reach' ? c.level : null) : c.bones[at + 1]!
    // Another branch was drawn out: this chain does not go through it.
    if (next !== null && boneOf(puppet, next).parent !== ids.at(-1)) continue
    if (c.bones.length + ids.length > MOST_CHAINED) throw new EditError(`"${c.name}" would have more than ${MOST_CHAINED} bones.`)
    c.bones.splice(at + 1, 0, ...ids)
  }
}
