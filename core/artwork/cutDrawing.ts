/**
 * Cutting vector drawings along an area.
 *
 * Inks are cut by boolean operations on their curves. Lines are cut where they cross the border of the area and stay
 * lines: open, with their style, thickness and hidden stretches. The cut itself gets no line.
 */
import { areaOf, AnchorIds, combine, stretchesOf, type Area } from '../maths/geometry/booleans'
import { pathLength, subPath } from '../maths/geometry/pathCut'
import { freePointId, freeShapeId } from './numbering'
import type { Drawing, Path, Shape } from './records'

/** Both sides of a cut; a side that got nothing is empty. */
export interface CutDrawing {
  readonly inside: readonly Shape[]
  readonly outside: readonly Shape[]
}

/** Inks smaller than this, px², or thinner than this, px, are slivers that nobody drew. */
const SLIVER_AREA = 0.002
const SLIVER_BREADTH = 0.004
/** Lines shorter than this, px, are crumbs. */
const CRUMB = 0.1

/**
 * Cuts a drawing in two.
 *
 * @param area in the drawing's own space; it may cross itself
 * @returns shapes in painting order; what a side has whole keeps its ids, new anchors get numbers of their own
 */
export function cutDrawing(drawing: Drawing, area: Area): CutDrawing {
  const firstNew = freePointId(drawing)
  let nextShape = freeShapeId(drawing)
  const inside: Shape[] = []
  const outside: Shape[] = []
  let nextId = firstNew
  for (const shape of drawing.shapes) {
    const cut = cutShape(shape, area, nextId, () => nextShape++)
    inside.push(...cut.inside)
    outside.push(...cut.outside)
    nextId = cut.nextId
  }
  return { inside, outside }
}

interface CutShape {
  readonly inside: readonly Shape[]
  readonly outside: readonly Shape[]
  readonly nextId: number
}

function cutShape(shape: Shape, area: Area, firstId: number, shapeId: () => number): CutShape {
  const lines = cutLines(shape, area, firstId)
  const inks = cutInk(shape, area, lines.nextId)
  const sides = ['inside', 'outside'] as const
  const isWhole = (side: (typeof sides)[number]): boolean => {
    const other = side === 'inside' ? 'outside' : 'inside'
    return (shape.line === null || lines[other].length === 0) && (shape.ink === null || inks[other].length === 0)
  }
  const out = { inside: [] as Shape[], outside: [] as Shape[], nextId: inks.nextId }
  for (const side of sides) {
    const [line, ink] = [lines[side], inks[side]]
    if (line.length + ink.length === 0) continue
    if (isWhole(side)) {
      out[side].push(shape)
      continue
    }
    const made: Shape[] = []
    if (shape.ink && ink.length > 0)
      made.push({
        ...shape,
        id: side === 'outside' ? shape.id : shapeId(),
        paths: [...ink],
        ink: { ...shape.ink, rule: 'nonzero' },
        line: null,
      })
    if (shape.line && line.length > 0)
      made.push({ ...shape, id: made.length === 0 && side === 'outside' ? shape.id : shapeId(), paths: [...line], ink: null })
    out[side].push(...(shape.lineFirst ? made.reverse() : made))
  }
  return out
}

interface Sides {
  readonly inside: readonly Path[]
  readonly outside: readonly Path[]
  readonly nextId: number
}

function cutInk(shape: Shape, area: Area, firstId: number): Sides {
  if (!shape.ink) return { inside: [], outside: [], nextId: firstId }
  const whole: Area = { paths: shape.paths.map((p) => ({ ...p, closed: true })), rule: shape.ink.rule }
  let nextId = firstId
  const part = (operation: 'intersect' | 'subtract', by: Area): { kept: Path[]; hasSlivers: boolean } => {
    const all = combine(whole, by, operation, new AnchorIds(shape.paths, nextId))
    nextId = Math.max(nextId, 1 + Math.max(-1, ...all.flatMap((p) => p.ids)))
    const kept = all.filter(isBroad)
    return { kept, hasSlivers: kept.length < all.length }
  }
  const inside = part('intersect', area)
  if (inside.kept.length === 0) return { inside: [], outside: shape.paths, nextId }
  // A sliver of one side stays with the other: nothing is lost.
  const outside = part('subtract', inside.hasSlivers ? { paths: inside.kept, rule: 'nonzero' } : area)
  if (outside.kept.length === 0) return { inside: shape.paths, outside: [], nextId }
  const final = outside.hasSlivers ? part('subtract', { paths: outside.kept, rule: 'nonzero' }) : inside
  return { inside: final.kept, outside: outside.kept, nextId }
}

function isBroad(path: Path): boolean {
  const size = areaOf({ paths: [path], rule: 'nonzero' })
  return size > SLIVER_AREA && size / Math.max(pathLength(path), 1e-9) > SLIVER_BREADTH
}

function cutLines(shape: Shape, area: Area, firstId: number): Sides {
  const inside: Path[] = []
  const outside: Path[] = []
  let nextId = firstId
  if (!shape.line) return { inside, outside, nextId }
  for (const path of shape.paths) {
    const stretches = stretchesOf(path, area)
    if (stretches.length <= 1) {
      ;(stretches[0]?.inside ? inside : outside).push(path)
      continue
    }
    for (const { from, to, inside: isInside } of stretches) {
      const piece = subPath(path, from, to, () => nextId++)
      if (pathLength(piece) > CRUMB) (isInside ? inside : outside).push(piece)
    }
  }
  return { inside, outside, nextId }
}
