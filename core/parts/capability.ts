/** Parts: the tree of the artwork, what each shows and where it sits. */
import type { Capability } from '../kernel/capability'
import { filedKind } from '../kernel/records'
import * as arrange from './arrange'
import * as artwork from './artCommands'
import { partChannels } from './channels'
import { partChecks } from './checks'
import * as commands from './commands'
import * as marks from './marks'
import * as nesting from './nesting'
import { flattened } from './findings'

/** What parts add to a puppet. */
export const parts: Capability = {
  name: 'parts',
  kinds: [filedKind('part', 'part', 'parts')],
  checks: partChecks,
  channels: [partChannels],
  findings: [flattened],
  commands: [commands, arrange, artwork, marks, nesting],
}
