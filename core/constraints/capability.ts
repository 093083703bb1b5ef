/** Targets and constraints: limbs that reach, bones that aim, copy, keep a distance or follow a path. */
import type { Capability } from '../kernel/capability'
import { filedKind, listedKind, type Reference, type WhenGone } from '../kernel/records'
import { constraintChannels, targetChannels } from './channels'
import { constraintChecks } from './checks'
import * as commands from './commands'
import { copyConstraints } from './copy'
import { cutChains, dropCircles, dropTargets } from './repair'

const AT = 'constraints/*'
const DROPPED: WhenGone = { drop: AT }

const references: Reference[] = [
  { at: 'targets/*/parent', to: 'bone', says: 'hangs from', gone: { heir: { clear: 'targets/*/parent' } } },
  { at: `${AT}/bones/*`, to: 'bone', says: 'moves', gone: 'repaired' },
  { at: `${AT}/level`, to: 'bone', says: 'moves', gone: { clear: `${AT}/level` } },
  { at: `${AT}/bone`, to: 'bone', says: 'moves', gone: DROPPED },
  { at: `${AT}/from`, to: 'bone', says: 'moves', gone: DROPPED },
  { at: `${AT}/target`, to: 'target', says: 'looks for', gone: DROPPED },
  { at: `${AT}/pole`, to: 'target', says: 'looks for', gone: { clear: `${AT}/pole` } },
  { at: `${AT}/targets/*`, to: 'target', says: 'looks for', gone: { drop: `${AT}/targets/*`, empty: AT } },
]

/** What targets and constraints add to a puppet. */
export const constraints: Capability = {
  name: 'constraints',
  kinds: [filedKind('target', 'target', 'targets'), listedKind('constraint', 'constraint', 'constraints')],
  references,
  checks: constraintChecks,
  repairs: [cutChains, dropCircles, dropTargets],
  copyAlong: copyConstraints,
  channels: [targetChannels, constraintChannels],
  commands: [commands],
}
