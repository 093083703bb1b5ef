/** Commands on the puppet as a whole. */
import { z } from 'zod'
import { Colour, Name } from '../kernel/numbers'
import { Guide, Puppet, Reference } from './schema'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { Naming } from '../roles/records'

/** Renames the puppet. */
export const renamePuppet = command('puppet.rename', 'Rename puppet', z.object({ name: Name }), (puppet, { name }) => {
  puppet.name = name
})

/** Changes the size or the background of the canvas. */
export const setCanvas = command(
  'puppet.canvas',
  'Change canvas',
  z.object({ width: z.number().min(1).max(32768), height: z.number().min(1).max(32768), background: Colour.nullable() }),
  (puppet, canvas) => {
    puppet.canvas = canvas
  },
)

/** Chooses what left and right mean in names. */
export const setNaming = command('puppet.naming', 'Change naming convention', z.object({ naming: Naming }), (puppet, { naming }) => {
  puppet.naming = naming
})

/** Sets the guides. */
export const setGuides = command('puppet.guides', 'Change guides', z.object({ guides: z.array(Guide).max(200) }), (puppet, { guides }) => {
  puppet.guides = guides
})

/** Sets the reference drawing under the artwork, or takes it away. */
export const setReference = command(
  'puppet.reference',
  'Change reference picture',
  z.object({ reference: Reference.nullable() }),
  (puppet, { reference }) => {
    puppet.reference = reference
  },
)

/** Sets the note on the puppet. */
export const setNote = command('puppet.note', 'Change note', z.object({ note: z.string().max(500) }), (puppet, { note }) => {
  puppet.note = note
})

/** Makes the puppet what it was in another version of it; as any edit it can be undone. */
export const takeVersion = command('puppet.version', 'Go back to a version', z.object({ version: Puppet }), (puppet, { version }) => {
  if (version.id !== puppet.id) throw new EditError('That is a version of another puppet.')
  Object.assign(puppet, version)
})
