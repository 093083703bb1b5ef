/** The rig report: findings about a puppet, each with the way to the spot. */
import type { JointId } from '../document/ids'
import type { Puppet } from '../document/schema'
import { bindHolder, bonesOfBind, drawingOf, drawnParts, partPath } from '../document/tree'
import { meansStill } from '../roles/match'
import { isOutOfDate } from '../edit/binds'
import { answerFindings } from './answers'
import { softFindings } from './soft'

export type FindingCode =
  | 'weights-out-of-date'
  | 'part-unbound'
  | 'bone-moves-nothing'
  | 'bone-without-length'
  | 'part-flattened'
  | 'deformer-degenerate'
  | 'joint-faults'
  | 'response-empty'
  | 'response-lost-points'
  | 'response-clash'

export interface Finding {
  readonly code: FindingCode
  /** Work area in which it is mended. */
  readonly bench: 'parts' | 'bones' | 'shape'
  readonly target: { readonly kind: 'part' | 'bone' | 'response'; readonly id: string; readonly name: string }
  /** The joint that is meant, where one is. */
  readonly joint?: JointId
  /** Goes on after the target's name. */
  readonly message: string
}

/** All findings, the gravest first. An empty skeleton is no finding: the rig has not been started. */
export function inspectRig(puppet: Puppet, sweeps: ReadonlyMap<JointId, JointFaults> = new Map()): Finding[] {
  return [
    ...faultyJoints(puppet, sweeps),
    ...staleWeights(puppet),
    ...flattened(puppet),
    ...softFindings(puppet),
    ...answerFindings(puppet),
    ...unbound(puppet),
    ...idleBones(puppet),
  ]
}

/** What sweeping a joint counted over all its angles, px. */
export interface JointFaults {
  readonly holes: number
  readonly corners: number
  readonly doubled: number
}

/** Joints that were swept and are not clean. */
function faultyJoints(puppet: Puppet, sweeps: ReadonlyMap<JointId, JointFaults>): Finding[] {
  return Object.values(puppet.joints).flatMap((joint): Finding[] => {
    const found = sweeps.get(joint.id)
    if (!found || found.holes + found.corners + found.doubled === 0) return []
    const said = [
      found.holes > 0 ? `${found.holes} px of background` : null,
      found.corners > 0 ? `${found.corners} px of corners` : null,
      found.doubled > 0 ? `${found.doubled} px of doubled lines` : null,
    ].filter((text) => text !== null)
    const { id, name } = puppet.parts[joint.over]!
    const message = `shows ${said.join(', ')} where it turns on ${puppet.parts[joint.under]!.name}`
    return [{ code: 'joint-faults', bench: 'parts', target: { kind: 'part', id, name }, joint: joint.id, message }]
  })
}

function staleWeights(puppet: Puppet): Finding[] {
  return Object.values(puppet.parts)
    .filter((p) => p.bind && isOutOfDate(puppet, p.bind))
    .map(({ id, name }) => ({
      code: 'weights-out-of-date',
      bench: 'bones',
      target: { kind: 'part', id, name },
      message: 'bends with weights from before its bones were moved',
    }))
}

function flattened(puppet: Puppet): Finding[] {
  return Object.values(puppet.parts)
    .filter(({ home }) => home.scaleX === 0 || home.scaleY === 0)
    .map(({ id, name }) => ({
      code: 'part-flattened',
      bench: 'parts',
      target: { kind: 'part', id, name },
      message: 'is scaled to nothing',
    }))
}

/** Visible drawings that no bone moves, once there are bones and other drawings are bound. */
function unbound(puppet: Puppet): Finding[] {
  if (!Object.values(puppet.parts).some((p) => p.bind)) return []
  return drawnParts(puppet, puppet.root)
    .filter((p) => p.visible && drawingOf(puppet, p) && !bindHolder(puppet, p.id) && !isStill(puppet, p.id))
    .map(({ id, name }) => ({ code: 'part-unbound', bench: 'bones', target: { kind: 'part', id, name }, message: 'follows no bone' }))
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
    .map(({ id, name }) => ({ code: 'bone-moves-nothing', bench: 'bones', target: { kind: 'bone', id, name }, message: 'moves nothing' }))
}
