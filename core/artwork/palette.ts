/** Commands on the palette: colours that what is painted with them follows. */
import { z } from 'zod'
import { DrawingId, SwatchId } from '../kernel/ids'
import { type Drawing, type Ink, type Line, type Paint, Swatch } from './records'
import type { Puppet } from '../puppet/schema'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'

type Flat = Extract<Paint, { kind: 'flat' }>

function swatchOf(puppet: Puppet, id: string): Swatch {
  const swatch = puppet.palette.find((s) => s.id === id)
  if (!swatch) throw new EditError(`There is no swatch "${id}" in the palette.`)
  return swatch
}

/** Flat paints of a drawing that follow a swatch. */
const followers = (drawing: Drawing, swatch: string): Flat[] =>
  drawing.shapes.flatMap(({ ink, line }) => [ink?.paint, line?.paint]).filter((p): p is Flat => p?.kind === 'flat' && p.swatch === swatch)

/** Adds a colour to the palette. Refused where its id is taken. */
export const addSwatch = command('palette.add', 'Add swatch', Swatch, (puppet, swatch) => {
  if (puppet.palette.some((s) => s.id === swatch.id)) throw new EditError(`There is already a swatch "${swatch.id}".`)
  puppet.palette.push(swatch)
})

/** Changes a swatch, and everything that is painted with it. */
export const setSwatch = command('palette.set', 'Change swatch', Swatch, (puppet, { id, name, colour }) => {
  const swatch = swatchOf(puppet, id)
  swatch.name = name
  swatch.colour = colour
  for (const drawing of Object.values(puppet.drawings)) for (const paint of followers(drawing, id)) paint.colour = colour
})

/** Takes a swatch away; what was painted with it keeps its colour. */
export const deleteSwatch = command('palette.delete', 'Delete swatch', z.object({ swatch: SwatchId }), (puppet, { swatch }) => {
  swatchOf(puppet, swatch)
  puppet.palette = puppet.palette.filter((s) => s.id !== swatch)
  for (const drawing of Object.values(puppet.drawings)) for (const paint of followers(drawing, swatch)) delete paint.swatch
})

/** Makes a swatch of every colour of a drawing that follows none yet, one for each colour. */
export const linkColours = command(
  'palette.link',
  'Take colours into the palette',
  z.object({ drawings: z.array(DrawingId).min(1), swatches: z.array(Swatch) }),
  (puppet, { drawings, swatches }) => {
    for (const swatch of swatches) {
      if (puppet.palette.some((s) => s.id === swatch.id)) throw new EditError(`There is already a swatch "${swatch.id}".`)
      puppet.palette.push(swatch)
    }
    const byColour = new Map<string, string>(puppet.palette.map((s) => [s.colour, s.id]))
    for (const id of drawings)
      for (const use of puppet.drawings[id]?.shapes.flatMap(({ ink, line }): (Ink | Line | null)[] => [ink, line]) ?? []) {
        if (use?.paint.kind !== 'flat' || use.paint.swatch !== undefined) continue
        const swatch = byColour.get(use.paint.colour)
        if (swatch !== undefined) use.paint.swatch = swatch
      }
  },
)
