/** A part's artwork as colour and line apart, and holes in it filled: for drawings exactly, for pictures by their pixels. */
import { linePixels, splitLines } from '@marionette/core/artwork/linePixels'
import { fillHole } from '@marionette/core/artwork/filling/fill'
import type { Drawing, Picture, Puppet, Shape } from '@marionette/core/puppet/schema'
import { AnchorIds, areaOf, combine, type Area } from '@marionette/core/maths/geometry/booleans'
import { mapPath } from '@marionette/core/maths/geometry/path'
import { coverageOf } from '@marionette/core/maths/geometry/coverage'
import { padded } from '@marionette/core/maths/geometry/raster'
import { decodePng } from '../pixels'
import { storedPicture } from '../storedPicture'
import type { AssetBytes, CutArt } from './cut'

const NOTHING: CutArt = { piece: null, rest: null, assets: new Map() }

/**
 * Takes the lines out of a part's artwork.
 *
 * @param threshold lightness below which a pixel belongs to a line
 * @param id of what the lines become; what is left, the colour, keeps its own
 */
export function splitArt(puppet: Puppet, art: string, id: string, threshold: number, assets: AssetBytes): CutArt {
  const [drawing, picture] = [puppet.drawings[art], puppet.pictures[art]]
  if (drawing) return splitDrawing(drawing, id)
  const bytes = picture && assets(picture.asset)
  if (!bytes) return NOTHING
  const pixels = decodePng(bytes, 'The picture')
  if (!linePixels(pixels, threshold).includes(1)) return NOTHING
  const { line, colour } = splitLines(pixels, threshold)
  const [lines, rest] = [storedPicture(id, line, picture), storedPicture(picture.id, colour, picture)]
  return {
    piece: lines && { picture: lines.picture },
    rest: rest && { picture: rest.picture },
    assets: new Map([lines, rest].flatMap((made) => (made ? [[made.picture.asset, made.png] as const] : []))),
  }
}

/** Lines and inks of a drawing in the order in which they were painted; a shape with both becomes two. */
function splitDrawing(drawing: Drawing, id: string): CutArt {
  const lines = drawing.shapes.filter((s) => s.line).map((s): Shape => ({ ...s, ink: null }))
  const inks = drawing.shapes.filter((s) => s.ink).map((s): Shape => ({ ...s, line: null }))
  if (lines.length === 0 || inks.length === 0) return NOTHING
  return { piece: { drawing: { id, shapes: lines } }, rest: { drawing: { ...drawing, shapes: inks } }, assets: new Map() }
}

export interface FilledArt {
  readonly drawing: Drawing | null
  readonly picture: Picture | null
  readonly assets: ReadonlyMap<string, Uint8Array>
}

/**
 * Fills what is missing of a part's artwork inside an area: of a picture its transparent pixels, from what surrounds
 * them; of a drawing by uniting the ink that meets the area most with it. Null where nothing meets it.
 *
 * @param area in the part's own space
 */
export function filledArt(
  puppet: Puppet,
  art: string,
  area: Area,
  assets: AssetBytes,
  progress?: (done: number) => void,
): FilledArt | null {
  const [drawing, picture] = [puppet.drawings[art], puppet.pictures[art]]
  if (drawing) {
    const filled = fillDrawing(drawing, area)
    return filled && { drawing: filled, picture: null, assets: new Map() }
  }
  const bytes = picture && assets(picture.asset)
  if (!bytes) return null
  const { x, y, scale } = picture
  const toPixels = area.paths.map((p) => mapPath(p, [1 / scale, 0, 0, 1 / scale, -x / scale, -y / scale]))
  const ends = toPixels.flatMap((p) => p.anchors)
  const [xs, ys] = [0, 1].map((axis) => ends.filter((_, i) => i % 2 === axis)) as [number[], number[]]
  const room = (v: number): number => Math.max(0, Math.ceil(v)) + 1
  const source = decodePng(bytes, 'The picture')
  const [left, top] = [room(-Math.min(...xs)), room(-Math.min(...ys))]
  const wide = padded(source, left, top, room(Math.max(...xs) - source.width), room(Math.max(...ys) - source.height))
  const covered = coverageOf({ ...area, paths: toPixels.map((p) => mapPath(p, [1, 0, 0, 1, left, top])) }, wide.width, wide.height)
  const hole = Uint8Array.from(covered, (share, i) => (share > 0 && wide.data[4 * i + 3]! < 250 ? 1 : 0))
  const filled = fillHole(wide, hole, progress ? { progress } : {})
  for (let i = 0; i < hole.length; i++) {
    if (!hole[i]) continue
    // The edge of the area is as smooth as that of what was there.
    const own = wide.data[4 * i + 3]! / 255
    filled.data[4 * i + 3] = Math.round(255 * (own + (1 - own) * covered[i]!))
  }
  const stored = storedPicture(picture.id, filled, { x: x - left * scale, y: y - top * scale, scale })
  return stored && { drawing: null, picture: stored.picture, assets: new Map([[stored.picture.asset, stored.png]]) }
}

function fillDrawing(drawing: Drawing, area: Area): Drawing | null {
  let best: { shape: Shape; share: number } | null = null
  for (const shape of drawing.shapes) {
    if (!shape.ink) continue
    const own: Area = { paths: shape.paths, rule: shape.ink.rule }
    const share = areaOf({ paths: combine(own, area, 'intersect'), rule: 'nonzero' })
    if (share > (best?.share ?? 0)) best = { shape, share }
  }
  if (!best) return null
  const { shape } = best
  const ids = new AnchorIds(drawing.shapes.flatMap((s) => s.paths))
  const paths = combine({ paths: shape.paths, rule: shape.ink!.rule }, area, 'unite', ids)
  const grown: Shape = { ...shape, paths, ink: { ...shape.ink!, rule: 'nonzero' } }
  return { ...drawing, shapes: drawing.shapes.map((s) => (s === shape ? grown : s)) }
}
