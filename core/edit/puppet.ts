/** Commands on the puppet as a whole. */
import { z } from 'zod'
import { Colour, Name } from '../document/schema'
import { command } from './command'

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

export const setNote = command('puppet.note', 'Change note', z.object({ note: z.string().max(500) }), (puppet, { note }) => {
  puppet.note = note
})
