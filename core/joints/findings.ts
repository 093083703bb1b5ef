/** Joints that do not hold when they turn. */
import type { Finding, Inspect } from '../kernel/finding'
import { partOf } from '../parts/lookup'

/** Joints that were swept and are not clean. */
export const faultyJoints: Inspect = (puppet, { sweeps }) => {
  return Object.values(puppet.joints).flatMap((joint): Finding[] => {
    const found = sweeps.get(joint.id)
    if (!found || found.holes + found.corners + found.doubled === 0) return []
    const said = [
      found.holes > 0 ? `${found.holes} px of background` : null,
      found.corners > 0 ? `${found.corners} px of corners` : null,
      found.doubled > 0 ? `${found.doubled} px of doubled lines` : null,
    ].filter((text) => text !== null)
    const { id, name } = partOf(puppet, joint.over)
    const message = `shows ${said.join(', ')} where it turns on ${partOf(puppet, joint.under).name}`
    return [{ gravity: 0, code: 'joint-faults', bench: 'parts', target: { kind: 'part', id, name }, joint: joint.id, message }]
  })
}
