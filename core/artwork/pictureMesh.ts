/** Meshes of raster pictures, made from the outline of what is opaque. */
import { subtractPolygons, type MultiPolygon, type Ring } from '../maths/geometry/polygons'
import type { PictureMesh } from './records'
import { grow, traceBorders, type Mask } from '../maths/geometry/trace'
import { latticeInside, NearPoints, stepped } from './mesh'
import { refineRegion } from './refine'
import { polygonsArea, ringArea, simplifyRegion } from './region'

/** Which pixels of a picture show: [width * height] alpha, row by row. */
export interface Alpha {
  readonly width: number
  readonly height: number
  readonly alpha: Uint8Array
}

/** How fine a mesh is, and how closely it keeps to the outline. */
export interface MeshOptions {
  /** Wanted length of edges inside, px; by default such that some 400 triangles cover the area, at least 8. */
  readonly spacing?: number
  /** How far the outline may stray, px. It never cuts what is opaque. */
  readonly tolerance?: number
}

/** Longest side of the grid on which outlines are traced. */
const FINEST_GRID = 1024
/** Pixels fainter than this do not count as opaque. */
const FAINT = 1
/** Outlines beyond this number are too torn to be followed: the grid becomes coarser. */
const MOST_BORDERS = 600
/** Triangles that a picture gets by default. */
const WANTED_TRIANGLES = 420

/**
 * Makes the mesh of a picture: the outline of what is opaque is traced, grown a little, simplified and triangulated
 * with points inside. Islands stay separate.
 *
 * @returns vertices in pixels of the picture; two triangles over all of it where nothing is opaque
 */
export function meshPicture(picture: Alpha, { spacing, tolerance = 1 }: MeshOptions = {}): PictureMesh {
  const region = outlineRegion(picture, tolerance)
  const side = spacing ?? defaultSpacing(polygonsArea(region))
  if (region.length === 0) return wholeMesh(picture, side)
  const loops = region.flat().map((ring) => stepped(ring, side))
  const near = new NearPoints(loops.flat(), side)
  const inner = latticeInside(region, side).filter((p) => near.isFree(p, 0.6 * side))
  const mesh = refineRegion(loops, inner, side)
  return mesh.triangles.length === 0
    ? wholeMesh(picture, side)
    : { spacing: side, vertices: mesh.vertices.map(rounded), triangles: mesh.triangles }
}

/** A triangular lattice of spacing s has two triangles for each s²·√3/2 of area. */
const defaultSpacing = (area: number): number => Math.max(8, Math.sqrt((4 * area) / (WANTED_TRIANGLES * Math.sqrt(3))))

/** To 1/256 px: exact in binary, fine enough to keep every angle. */
const rounded = (v: number): number => Math.round(v * 256) / 256

const wholeMesh = ({ width, height }: Alpha, spacing: number): PictureMesh => ({
  spacing,
  vertices: [0, 0, width, 0, width, height, 0, height],
  triangles: [0, 1, 2, 0, 2, 3],
})

/** What is opaque as polygons with holes, a little grown and then simplified by less than that. */
function outlineRegion(picture: Alpha, tolerance: number): MultiPolygon {
  let cell = Math.max(1, Math.ceil(Math.max(picture.width, picture.height) / FINEST_GRID))
  for (;;) {
    const reach = Math.max(1, Math.ceil((tolerance + 0.5) / cell))
    const borders = traceBorders(grow(maskOf(picture, cell), reach))
    if (borders.length > MOST_BORDERS) {
      cell *= 2
      continue
    }
    const rings = borders.map((points): Ring => {
      const ring = points.map(([x, y]): [number, number] => [(x - reach) * cell, (y - reach) * cell])
      return [...ring, [...ring[0]!]]
    })
    return united(rings, tolerance)
  }
}

/** Simplified rings as a region. Outlines turn one way and holes the other; a hole less than a few pixels wide is closed. */
function united(rings: readonly Ring[], tolerance: number): MultiPolygon {
  const outer = rings.filter((r) => ringArea(r) > 0).map((r) => [r])
  const holes = rings.filter((r) => ringArea(r) < -16 * tolerance * tolerance).map((r) => [r])
  if (outer.length === 0) return []
  const shape = simplifyRegion(outer, tolerance)
  return holes.length === 0 ? shape : subtractPolygons(shape, simplifyRegion(holes, tolerance))
}

/** Cells of a number of pixels on each side, set where any pixel in them shows. */
function maskOf({ width, height, alpha }: Alpha, cell: number): Mask {
  const wide = Math.ceil(width / cell)
  const high = Math.ceil(height / cell)
  const cells = new Uint8Array(wide * high)
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / cell) * wide
    for (let x = 0; x < width; x++) if (alpha[y * width + x]! > FAINT) cells[row + Math.floor(x / cell)] = 1
  }
  return { width: wide, height: high, cells }
}

/** A mesh in pixels of a picture, taken to where the picture lies in its part's own space. */
export const placeMesh = (mesh: PictureMesh, x: number, y: number, scale: number): PictureMesh => ({
  spacing: mesh.spacing * scale,
  vertices: mesh.vertices.map((v, i) => v * scale + (i % 2 === 0 ? x : y)),
  triangles: mesh.triangles,
})
