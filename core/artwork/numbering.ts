/** Numbers of points and shapes: unique within their drawing. */
import type { Drawing } from './records'

/** The first number that no point of a drawing has. */
export const freePointId = ({ shapes }: Pick<Drawing, 'shapes'>): number =>
  1 + shapes.reduce((most, s) => s.paths.reduce((m, p) => p.ids.reduce((k, id) => Math.max(k, id), m), most), -1)

/** The first number that no shape of a drawing has. */
export const freeShapeId = ({ shapes }: Pick<Drawing, 'shapes'>): number => 1 + shapes.reduce((most, s) => Math.max(most, s.id), -1)
