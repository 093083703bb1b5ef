/** Cutting: sheets of figures, and pieces of artwork that are sent to parts. */
import type { Capability } from '../kernel/capability'
import type { Reference } from '../kernel/records'
import * as commands from './commands'
import { strayPieces } from './findings'
import * as sheets from './sheetCommands'

const references: Reference[] = [
  { at: 'parts/*/sheet/whole/*', to: 'art', says: 'was cut from', gone: 'repaired' },
  { at: 'parts/*/sheet/cells/*/view', to: 'view', says: 'has a cell for', gone: { drop: 'parts/*/sheet/cells/*' } },
]

/** What sheets and cutting add to a puppet. */
export const cutting: Capability = { name: 'cutting', references, findings: [strayPieces], commands: [commands, sheets] }
