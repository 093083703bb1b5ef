/** Responses: recorded changes that answer to an input. */
import type { Capability } from '../kernel/capability'
import { listedKind, type Reference } from '../kernel/records'
import { responseChecks } from './checks'
import * as commands from './commands'
import * as mirror from './mirror'
import { carryPoints } from './repair'
import { responseFindings } from './findings'

const AT = 'responses/*'
const CHANGES = `${AT}/stops/*/changes/*`

const listens = (field: string, to: string): Reference => ({ at: `${AT}/inputs/*/${field}`, to, says: 'listens to', gone: { drop: AT } })

const references: Reference[] = [
  listens('channel', 'channel'),
  listens('bone', 'bone'),
  ...['from', 'to'].flatMap((end) => [listens(`${end}/bone`, 'bone'), listens(`${end}/target`, 'target')]),
  { at: `${CHANGES}/channel`, to: 'channel', says: 'names', gone: { drop: CHANGES } },
  { at: `${CHANGES}/part`, to: 'part', says: 'changes', gone: { drop: CHANGES } },
  { at: `${CHANGES}/drawing`, to: 'drawing', says: 'changes', gone: 'repaired' },
]

/** What responses add to a puppet. */
export const responses: Capability = {
  name: 'responses',
  kinds: [listedKind('response', 'response', 'responses')],
  references,
  checks: responseChecks,
  repairs: [carryPoints],
  findings: [responseFindings],
  commands: [commands, mirror],
}
