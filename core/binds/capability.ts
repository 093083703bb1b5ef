/** Binds: how artwork follows bones, or parts. */
import type { Capability } from '../kernel/capability'
import type { Reference } from '../kernel/records'
import { bindChecks } from './checks'
import * as commands from './commands'
import { copyBinds } from './copy'
import { withoutGoneBones } from './repair'
import { bindFindings } from './findings'

const BINDS = ['parts/*/bind', 'parts/*/inViews/*/bind']

const references: Reference[] = [
  { at: 'parts/*/bind/bone', to: 'bone', says: 'follows', gone: { heir: { clear: 'parts/*/bind' } } },
  { at: 'parts/*/bind/to', to: 'part', says: 'hangs on', gone: { clear: 'parts/*/bind' } },
  ...BINDS.map((bind): Reference => ({ at: `${bind}/bones/*`, to: 'bone', says: 'follows', gone: 'repaired' })),
]

/** What binds and weights add to a puppet. */
export const binds: Capability = {
  name: 'binds',
  references,
  checks: bindChecks,
  copyInside: copyBinds,
  repairs: [withoutGoneBones],
  findings: [bindFindings],
  commands: [commands],
}
