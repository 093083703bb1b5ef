/** Shapes and drawings under affine maps. */
import type { Affine } from '../../kernel/numbers'
import type { Drawing, Line, Shape } from '../../artwork/records'
import { IDENTITY, keepsAngles, multiply } from './affine'
import { mapPath } from './path'

/** A shape under a map, its paints included. */
export function mapShape(shape: Shape, map: Affine): Shape {
  if (map === IDENTITY) return shape
  const moved = (paint: Line['paint']): Line['paint'] => (paint.kind === 'flat' ? paint : { ...paint, map: multiply(map, paint.map) })
  const { ink, line } = shape
  return {
    ...shape,
    paths: shape.paths.map((p) => mapPath(p, map)),
    ink: ink && { ...ink, paint: moved(ink.paint) },
    line: line && { ...mapLine(line, map), paint: moved(line.paint) },
  }
}

/** A line whose nib goes through a map: it grows with it, or keeps its own space where the map would make it oval. */
function mapLine(line: Line, map: Affine): Line {
  if (!line.pen && keepsAngles(map)) {
    const scale = Math.sqrt(Math.abs(map[0] * map[3] - map[1] * map[2]))
    if (scale === 1) return line
    const dash = line.dash && { lengths: line.dash.lengths.map((l) => l * scale), offset: line.dash.offset * scale }
    return { ...line, width: line.width * scale, dash }
  }
  const pen = line.pen ?? [1, 0, 0, 1]
  const [a, b, c, d] = multiply(map, [...pen, 0, 0] as Affine)
  return { ...line, pen: [a, b, c, d] }
}

/** A drawing under a map. */
export const mapDrawing = (drawing: Drawing, map: Affine): Drawing => ({ ...drawing, shapes: drawing.shapes.map((s) => mapShape(s, map)) })
