/** Springs: what swings by itself. */
import type { Capability } from '../kernel/capability'
import { listedKind, type Reference } from '../kernel/records'
import type { Problem } from '../kernel/problem'
import type { Puppet } from '../puppet/schema'
import { springChannels } from './channels'
import * as commands from './commands'
import { copySprings } from './copy'
import { undrivenSprings } from './findings'

const references: Reference[] = [
  { at: 'springs/*/bones/*', to: 'bone', says: 'swings', gone: { drop: 'springs/*/bones/*', empty: 'springs/*' } },
  { at: 'colliders/*/bone', to: 'bone', says: 'is about', gone: { drop: 'colliders/*' } },
]

/** A bone in two groups would be led twice. */
function sprungTwice({ springs }: Puppet): Problem[] {
  const seen = new Set<string>()
  return springs.flatMap(({ id, bones }) =>
    bones.flatMap((bone) => {
      if (!seen.has(bone)) return (seen.add(bone), [])
      return [{ path: `springs.${id}.bones`, message: `holds the bone "${bone}", which stands in a group already` }]
    }),
  )
}

/** What springs add to a puppet. */
export const springs: Capability = {
  name: 'springs',
  kinds: [listedKind('spring', 'group of springs', 'springs'), listedKind('collider', 'collider', 'colliders')],
  references,
  checks: [{ stage: 'records', needs: ['springs'], find: sprungTwice }],
  copyAlong: copySprings,
  channels: [springChannels],
  findings: [undrivenSprings],
  commands: [commands],
}
