/** Joints that do not hold when they turn. */
import type { Finding, Inspect } from '../kernel/finding'
import { partOf } from '../parts/lookup'

/** Joints whose range was tested and that do not hold. */
export const faultyJoints: Inspect = (puppet, { sweeps }) => {
  return Object.values(puppet.joints).flatMap((joint): Finding[] => {
    const found = sweeps.get(joint.id)
    if (!found || found.grade === 'good') return []
    const { id, name } = partOf(puppet, joint.over)
    const message = `${found.said} where it turns on ${partOf(puppet, joint.under).name}`
    return [
      {
        gravity: found.grade === 'broken' ? 0 : 1,
        code: 'joint-faults',
        bench: 'parts',
        target: { kind: 'part', id, name },
        joint: joint.id,
        message,
      },
    ]
  })
}
