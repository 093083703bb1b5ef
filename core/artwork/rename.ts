/** Artwork under other ids. */
import type { DrawingId } from '../kernel/ids'
import type { Drawing, Ink, Line } from './records'

/** A drawing under the id that `renamed` gives for its own, painted with the drawings it gives for its patterns. */
export function renameDrawing(drawing: Drawing, renamed: (id: DrawingId) => DrawingId): Drawing {
  const repainted = <T extends Ink | Line>(use: T | null): T | null =>
    use?.paint.kind === 'pattern' ? { ...use, paint: { ...use.paint, drawing: renamed(use.paint.drawing) } } : use
  return {
    ...drawing,
    id: renamed(drawing.id),
    shapes: drawing.shapes.map((s) => ({ ...s, ink: repainted(s.ink), line: repainted(s.line) })),
  }
}
