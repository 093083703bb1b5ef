/** Artwork that bends with old weights or follows nothing, and bones that move nothing. */
import type { Finding, Inspect } from '../kernel/finding'
import { drawingOf, drawnParts, partPath } from '../parts/tree'
import type { Puppet } from '../puppet/schema'
import { meansStill } from '../roles/match'
import { isOutOfDate } from './commands'
import { bindHolder, bonesOfBind } from './tree'

function staleWeights(puppet: Puppet): Finding[] {
  return Object.values(puppet.parts)
    .filter((p) => p.bind && isOutOfDate(puppet, p.bind))
    .map(({ id, name }) => ({
      gravity: 1,
      code: 'weights-out-of-date',
      bench: 'bones',
      target: { kind: 'part', id, name },
      message: 'bends with weights from before its bones were moved',
    }))
}

/** Visible drawings that no bone moves, once there are bones and other drawings are bound. */
function unbound(puppet: Puppet): Finding[] {
  if (!Object.values(puppet.parts).some((p) => p.bind)) return []
  return drawnParts(puppet, puppet.root)
    .filter((p) => p.visible && drawingOf(puppet, p) && !bindHolder(puppet, p.id) && !isStill(puppet, p.id))
    .map(({ id, name }) => ({
      gravity: 5,
      code: 'part-unbound',
      bench: 'bones',
      target: { kind: 'part', id, name },
      message: 'follows no bone',
    }))
}

/** Whether a part, or a group that it is in, stands still by its name: a shadow, a background. */
const isStill = (puppet: Puppet, part: string): boolean => partPath(puppet, part).some((p) => p.id !== puppet.root && meansStill(p.name))

/** Bones at the end of a chain with nothing bound to them, once anything is bound. */
function idleBones(puppet: Puppet): Finding[] {
  const used = new Set(Object.values(puppet.parts).flatMap((p) => (p.bind ? bonesOfBind(p.bind) : [])))
  if (used.size === 0) return []
  // A bone that carries a target or is copied does something without moving a drawing.
  const isLookedFor = new Set([
    ...Object.values(puppet.targets).map((t) => t.parent),
    ...puppet.constraints.map((c) => (c.kind === 'copy' ? c.from : null)),
  ])
  return Object.values(puppet.bones)
    .filter((b) => b.children.length === 0 && !used.has(b.id) && !isLookedFor.has(b.id))
    .map(({ id, name }) => ({
      gravity: 6,
      code: 'bone-moves-nothing',
      bench: 'bones',
      target: { kind: 'bone', id, name },
      message: 'moves nothing',
    }))
}

/** Findings on binds: old weights, artwork that follows nothing, bones that move nothing. */
export const bindFindings: Inspect = (puppet) => [...staleWeights(puppet), ...unbound(puppet), ...idleBones(puppet)]
