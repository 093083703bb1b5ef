/** `rig sweep IN [--json]`: turns every joint through its limits, in every view, and counts what is wrong. */
import { proposeJoints } from '@marionette/core/artwork/proposeJoints'
import type { Joint, Puppet } from '@marionette/core/document/schema'
import { restBounds } from '@marionette/core/document/tree'
import { inView } from '@marionette/core/document/views'
import { loadCanvasKit } from '@marionette/render/node'
import { sweepJoint, worstFirst, type Sweep } from '@marionette/render/sweep'
import { readInput } from './files'
import { Failure } from './failure'

/** Degrees between the pictures of a joint, at most. */
const STEP = 5

export async function sweep(input: string, json: boolean): Promise<string> {
  const { puppet, assets } = await readInput(input)
  if (Object.keys(puppet.joints).length === 0) {
    const found = proposeJoints(puppet).length
    throw new Failure(`${input}: there are no joints in it${found > 0 ? `; ${found} could be made` : ''}`)
  }
  const CK = await loadCanvasKit()
  const swept = puppet.views.flatMap(({ id, name }): SweptJoint[] => {
    const seen = inView(puppet, id)
    return jointsShown(seen).map((joint) => ({
      view: name,
      ...sweepJoint(CK, seen, joint, { size: 256, step: STEP, assets: (hash) => assets.get(hash) }),
    }))
  })
  if (json) return JSON.stringify({ puppet: puppet.name, pixels: 256, joints: swept }, null, 2)
  return swept.map((s) => (puppet.views.length > 1 ? `${s.view}: ${describe(s)}` : describe(s))).join('\n')
}

type SweptJoint = Sweep & { readonly view: string }

/** Joints of which both parts show something in the shown view. */
const jointsShown = (puppet: Puppet): Joint[] =>
  Object.values(puppet.joints).filter((j) => [j.under, j.over].every((part) => restBounds(puppet, part) !== null))

function describe(s: Sweep): string {
  const worst = worstFirst(s)[0]!
  const faults = s.holes + s.corners + s.doubled
  const found =
    faults === 0 ? 'clean' : `${s.holes} px of holes, ${s.corners} of corners, ${s.doubled} of doubled lines, worst at ${worst.angle}°`
  return `${s.under} – ${s.over}  ${s.min}° to ${s.max}°, ${s.angles.length} angles: ${found}`
}
