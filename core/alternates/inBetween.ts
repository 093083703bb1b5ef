/** What morphs, as drawings of its own. */
import type { Affine } from '../kernel/numbers'
import type { Drawing, Paint, Path, Shape } from '../artwork/records'
import { apply, invert } from '../maths/geometry/affine'
import { hexOf } from '../maths/solve/oklab'
import { CLOSE, MOVE } from '../artwork/flat/flat'
import type { Morphed } from './morph'
import type { MorphingFrame as Frame } from './frame'

/** Most in-betweens that are made at once. */
export const MOST_BETWEEN = 24

/**
 * The drawing that is painted in place of another while it morphs, in a space of its own.
 *
 * @param d drawing in whose place it is painted; it has to morph in this frame
 * @param space map of the new drawing's space to the canvas; it has to be regular
 */
export function morphedDrawing(frame: Frame, d: number, space: Affine, id: string): Drawing {
  const morphed = frame.morphs.drawn[d]!
  const back = invert(space)!
  const scale = Math.sqrt(Math.abs(back[0] * back[3] - back[1] * back[2]))
  let next = 0
  const shapes = morphed.geometry.shapes.map(({ shape, verbs, first }, s): Shape => {
    const paths = pathsOf(verbs, first, morphed.points, back, next)
    next += paths.reduce((sum, p) => sum + p.ids.length, 0)
    return { ...shape, paths, ...looksOf(shape, morphed, s, scale) }
  })
  return { id, shapes }
}

function looksOf(shape: Shape, { widths, inks, lines }: Morphed, s: number, scale: number): Pick<Shape, 'ink' | 'line'> {
  const flat = (paint: Paint, colour: readonly [number, number, number] | null): Paint =>
    colour ? { kind: 'flat', colour: hexOf(...colour) } : paint
  return {
    ink: shape.ink && { ...shape.ink, paint: flat(shape.ink.paint, inks[s]!) },
    line: shape.line && { ...shape.line, paint: flat(shape.line.paint, lines[s]!), width: shape.line.width * widths[s]! * scale },
  }
}

function pathsOf(verbs: Uint8Array, first: number, points: Float64Array, back: Affine, firstId: number): Path[] {
  const out: { closed: boolean; corners: [number, number][]; ins: [number, number][]; outs: [number, number][] }[] = []
  let at = first
  const take = (): [number, number] => {
    const { x, y } = apply(back, { x: points[2 * at]!, y: points[2 * at + 1]! })
    at++
    return [x, y]
  }
  for (const verb of verbs) {
    const path = out.at(-1)
    if (verb === MOVE) {
      const start = take()
      out.push({ closed: false, corners: [start], ins: [start], outs: [] })
    } else if (verb === CLOSE) path!.closed = true
    else {
      path!.outs.push(take())
      path!.ins.push(take())
      path!.corners.push(take())
    }
  }
  let next = firstId
  return out.map((path) => {
    // A closed path ends where it began.
    if (path.closed) path.ins[0] = path.ins.pop()!
    const count = path.closed ? path.corners.length - 1 : path.corners.length
    const ids = Array.from({ length: count }, () => next++)
    const relative = (k: number, handle: [number, number] | undefined): [number, number] =>
      handle ? [handle[0] - path.corners[k]![0], handle[1] - path.corners[k]![1]] : [0, 0]
    return {
      closed: path.closed,
      ids,
      anchors: ids.flatMap((_, k) => path.corners[k]!),
      handles: ids.flatMap((_, k) => [...relative(k, path.ins[k]), ...relative(k, path.outs[k])]),
    }
  })
}
