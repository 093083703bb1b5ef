/** Joints of the demo puppets, made and given round ends by the same means as in the interface. */
import { proposeJoints } from '@marionette/core/joints/proposeJoints'
import type { Puppet } from '@marionette/core/puppet/schema'
import { run } from '@marionette/core/puppet/edit'
import { addJoint, changeArt } from '@marionette/core/joints/commands'
import { cappedArt } from '@marionette/formats/cutting/caps'
import type { Joint } from '@marionette/core/joints/records'
import type { Demo } from './demo'
import { partOf } from '@marionette/core/parts/lookup'

/** Makes the proposed joints of which at least one part is called like this. */
export function withJoints(puppet: Puppet, prefix: string, names: RegExp): Puppet {
  const isMeant = (part: string): boolean => names.test(partOf(puppet, part).name)
  return proposeJoints(puppet)
    .filter((j) => isMeant(j.under) || isMeant(j.over))
    .reduce((p, joint, i) => run(p, addJoint, { id: `${prefix}-joint-${i + 1}`, ...joint }), puppet)
}

/** Gives joints their round ends. */
export function withCaps({ puppet, assets }: Demo, wanted: (joint: Joint, puppet: Puppet) => boolean): Demo {
  const bytes = new Map(assets)
  let capped = puppet
  for (const joint of Object.values(puppet.joints).filter((j) => wanted(j, puppet))) {
    const made = cappedArt(capped, joint, (hash) => bytes.get(hash))
    for (const [hash, png] of made.assets) bytes.set(hash, png)
    capped = run(capped, changeArt, { drawings: [...made.drawings], pictures: [...made.pictures] })
  }
  return { puppet: capped, assets: bytes }
}
