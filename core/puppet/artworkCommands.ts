/** Commands that bring artwork into a puppet. */
import { z } from 'zod'
import { PartId } from '../kernel/ids'
import { Drawing, Picture } from '../artwork/records'
import { Part, type Puppet } from './schema'
import { partOf } from '../parts/lookup'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { drawingBy, pictureBy } from '../artwork/art'
import { recordOf } from '../kernel/sure'

/** A drawing from elsewhere follows swatches of its own puppet: those that are not here are forgotten. */
function forgetSwatches(puppet: Puppet, drawing: string): void {
  const known = new Map(puppet.palette.map((s) => [s.id, s.colour]))
  for (const { ink, line } of recordOf(puppet.drawings, drawing).shapes)
    for (const paint of [ink?.paint, line?.paint])
      if (paint?.kind === 'flat' && paint.swatch !== undefined && known.get(paint.swatch) !== paint.colour) delete paint.swatch
}

/** Adds parts with their drawings under a group, as an import makes them. Parents come before children. */
export const addArtwork = command(
  'artwork.add',
  'Add artwork',
  z.object({ parent: PartId, parts: z.array(Part).min(1), drawings: z.array(Drawing), pictures: z.array(Picture).optional() }),
  (puppet, { parent, parts, drawings, pictures = [] }) => {
    for (const picture of pictures) {
      if (puppet.pictures[picture.id]) throw new EditError(`There is already a picture "${picture.id}".`)
      puppet.pictures[picture.id] = picture
    }
    for (const drawing of drawings) {
      if (puppet.drawings[drawing.id]) throw new EditError(`There is already a drawing "${drawing.id}".`)
      puppet.drawings[drawing.id] = drawing
      forgetSwatches(puppet, drawing.id)
    }
    for (const part of parts) {
      if (puppet.parts[part.id]) throw new EditError(`There is already a part "${part.id}".`)
      const bind = part.bind
      if (bind) throw new EditError(`"${part.name}" comes with a bind; artwork is bound after it was added.`)
      const shown = part.content.kind === 'picture' ? pictureBy : drawingBy
      if (Object.values(part.art).some((id) => !shown(puppet, id))) throw new EditError(`"${part.name}" shows artwork that is not there.`)
      if (part.merged !== null && !puppet.pictures[part.merged])
        throw new EditError(`"${part.name}" is merged into a picture that is not there.`)
      if (Object.keys(part.art).some((v) => !puppet.views.some((view) => view.id === v)))
        throw new EditError(`"${part.name}" is drawn for an unknown view.`)
      const under = part.parent ?? parent
      partOf(puppet, under).children.push(part.id)
      puppet.parts[part.id] = { ...part, parent: under, children: [] }
    }
    for (const { name, masks } of parts)
      if (masks.some((m) => !puppet.parts[m.shape])) throw new EditError(`"${name}" is masked by a part that is not there.`)
  },
)
