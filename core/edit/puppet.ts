/** Commands on the puppet as a whole. */
import { z } from 'zod'
import { brokenInvariants } from '../document/invariants'
import { Colour, Guide, Name, Naming, Puppet, Reference } from '../document/schema'
import { command, EditError } from './command'

export const renamePuppet = command('puppet.rename', 'Rename puppet', z.object({ name: Name }), (puppet, { name }) => {
  puppet.name = name
})

export const setCanvas = command(
  'puppet.canvas',
  'Change canvas',
  z.object({ width: z.number().min(1).max(32768), height: z.number().min(1).max(32768), background: Colour.nullable() }),
  (puppet, canvas) => {
    puppet.canvas = canvas
  },
)

export const setNaming = command('puppet.naming', 'Change naming convention', z.object({ naming: Naming }), (puppet, { naming }) => {
  puppet.naming = naming
})

export const setGuides = command('puppet.guides', 'Change guides', z.object({ guides: z.array(Guide).max(200) }), (puppet, { guides }) => {
  puppet.guides = guides
})

export const setReference = command(
  'puppet.reference',
  'Change reference picture',
  z.object({ reference: Reference.nullable() }),
  (puppet, { reference }) => {
    puppet.reference = reference
  },
)

export const setNote = command('puppet.note', 'Change note', z.object({ note: z.string().max(500) }), (puppet, { note }) => {
  puppet.note = note
})

/** Makes the puppet what it was in another version of it; as any edit it can be undone. */
export const takeVersion = command('puppet.version', 'Go back to a version', z.object({ version: Puppet }), (puppet, { version }) => {
  if (version.id !== puppet.id) throw new EditError('That is a version of another puppet.')
  if (brokenInvariants(version).length > 0) throw new EditError('That version is not sound and cannot be taken.')
  Object.assign(puppet, version)
})
