/** Joints: where two parts meet and one turns against the other. */
import type { Capability } from '../kernel/capability'
import { filedKind, type Reference } from '../kernel/records'
import * as commands from './commands'
import { copyJoints } from './copy'
import { faultyJoints } from './findings'

const side = (end: string): Reference => ({ at: `joints/*/${end}`, to: 'part', says: 'joins', gone: { drop: 'joints/*' } })

/** What joints add to a puppet. */
export const joints: Capability = {
  name: 'joints',
  kinds: [filedKind('joint', 'joint', 'joints')],
  references: [side('under'), side('over')],
  checks: [
    {
      stage: 'records',
      needs: ['joints'],
      find: (puppet) =>
        Object.values(puppet.joints)
          .filter(({ under, over }) => under === over)
          .map(({ id }) => ({ path: `joints.${id}`, message: 'joins a part to itself' })),
    },
  ],
  copyAlong: copyJoints,
  findings: [faultyJoints],
  commands: [commands],
}
