/** `rig sweep IN [--json]`: turns every joint through its limits and counts what is wrong. */
import { proposeJoints } from '@marionette/core/artwork/proposeJoints'
import { loadCanvasKit } from '@marionette/render/node'
import { sweepJoint, worstFirst, type Sweep } from '@marionette/render/sweep'
import { readInput } from './files'
import { Failure } from './failure'

/** Degrees between the pictures of a joint, at most. */
const STEP = 5

export async function sweep(input: string, json: boolean): Promise<string> {
  const { puppet, assets } = await readInput(input)
  const joints = Object.values(puppet.joints)
  if (joints.length === 0) {
    const found = proposeJoints(puppet).length
    throw new Failure(`${input}: there are no joints in it${found > 0 ? `; ${found} could be made` : ''}`)
  }
  const CK = await loadCanvasKit()
  const swept = joints.map((joint) => sweepJoint(CK, puppet, joint, { size: 256, step: STEP, assets: (hash) => assets.get(hash) }))
  if (json) return JSON.stringify({ puppet: puppet.name, pixels: 256, joints: swept }, null, 2)
  return swept.map(describe).join('\n')
}

function describe(s: Sweep): string {
  const worst = worstFirst(s)[0]!
  const faults = s.holes + s.corners + s.doubled
  const found =
    faults === 0 ? 'clean' : `${s.holes} px of holes, ${s.corners} of corners, ${s.doubled} of doubled lines, worst at ${worst.angle}°`
  return `${s.under} – ${s.over}  ${s.min}° to ${s.max}°, ${s.angles.length} angles: ${found}`
}
