/** The line of a drawing as a part of its own, on top of what shows inside: drawn once, however faded what it masks is. */
import type { DrawingId, PartId } from '../kernel/ids'
import type { Drawing } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { drawingOf } from '../parts/tree'
import { changeArt } from '../joints/commands'
import { movePart } from '../parts/commands'
import { edit, type Edit } from '../kernel/command'
import { newPart } from '../parts/new'
import { addArtwork } from '../puppet/artworkCommands'
import { sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'
import { aboveThose, boundAs } from './copied'

/** The line of a masking shape, drawn over what it masks. */
export interface TopLine {
  readonly part: PartId
  readonly drawing: DrawingId
  readonly edits: readonly Edit[]
}

/** Whether a part has a line beside its colour that could be drawn on top. */
export function hasLineBeside(puppet: Puppet, shape: PartId): boolean {
  const part = puppet.parts[shape]
  if (part?.content.kind !== 'drawing' || part.parent === null) return false
  return drawingOf(puppet, part)?.shapes.some((s) => s.ink && s.line) ?? false
}

/**
 * Takes the line of a part away and draws it on top of it and of what shows inside of it, but below all that lies over them; null where
 * it has none beside its colour.
 *
 * @param inside parts that show within the shape
 * @param id of the new part
 */
export function lineOnTop(puppet: Puppet, shape: PartId, inside: readonly PartId[], id: string): TopLine | null {
  const part = partOf(puppet, shape)
  if (!hasLineBeside(puppet, shape) || part.parent === null) return null
  const drawing = sure(drawingOf(puppet, part))
  const line: Drawing = { ...drawing, id: `${id}-drawing`, shapes: drawing.shapes.flatMap((s) => (s.line ? [{ ...s, ink: null }] : [])) }
  const bare: Drawing = { ...drawing, shapes: drawing.shapes.map((s) => (s.ink ? { ...s, line: null } : s)).filter((s) => s.ink) }
  const copy = {
    ...newPart(id, `${part.name} line`, { kind: 'drawing' }),
    pivot: part.pivot,
    home: part.home,
    art: { [puppet.view]: line.id },
  }
  const index = aboveThose(puppet, part.parent, [shape, ...inside])
  return {
    ...{ part: id, drawing: line.id },
    edits: [
      edit(addArtwork, { parent: part.parent, parts: [copy], drawings: [line] }),
      edit(movePart, { part: id, parent: part.parent, index }),
      ...boundAs(puppet, shape, id),
      edit(changeArt, { drawings: [bare], pictures: [] }),
    ],
  }
}
