/** Outlines of what is set in a grid of cells. */

/** Cells of a picture: 1 where anything in them is opaque. */
export interface Mask {
  readonly width: number
  readonly height: number
  /** [width * height] row by row */
  readonly cells: Uint8Array
}

/**
 * Grows what is set by a number of cells in all eight directions, into a mask with that much room on every side.
 * Rows first, then columns: a square reach.
 */
export function grow(mask: Mask, reach: number): Mask {
  const width = mask.width + 2 * reach
  const height = mask.height + 2 * reach
  const wide = new Uint8Array(width * mask.height)
  for (let y = 0; y < mask.height; y++) {
    for (let x = 0, left = 0; x < width; x++) {
      if (x < mask.width && mask.cells[y * mask.width + x]) left = 2 * reach + 1
      if (left > 0) {
        wide[y * width + x] = 1
        left--
      }
    }
  }
  const cells = new Uint8Array(width * height)
  for (let x = 0; x < width; x++) {
    for (let y = 0, left = 0; y < height; y++) {
      if (y < mask.height && wide[y * width + x]) left = 2 * reach + 1
      if (left > 0) {
        cells[y * width + x] = 1
        left--
      }
    }
  }
  return { width, height, cells }
}

/**
 * Borders of a mask as closed polygons along the edges of cells: what is set lies to the right of the way, so outlines
 * run clockwise on screen and holes against. Where cells touch at a corner alone they are kept apart.
 *
 * @returns corners [x, y] of each border in cells; straight runs have no points in between
 */
export function traceBorders({ width, height, cells }: Mask): [number, number][][] {
  const isSet = (x: number, y: number): boolean => x >= 0 && y >= 0 && x < width && y < height && cells[y * width + x] === 1
  // Upper edges of set cells, by which every border is found: each has at least one.
  const seen = new Uint8Array(width * height)
  const out: [number, number][][] = []
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (!cells[y * width + x] || isSet(x, y - 1) || seen[y * width + x]) continue
      out.push(follow(x, y, isSet, (cx, cy) => (seen[cy * width + cx] = 1)))
    }
  }
  return out
}

/** Directions right, down, left, up: the way, and where the cells ahead to its right and left lie from the corner. */
const WAYS = [
  { dx: 1, dy: 0, right: [0, 0], left: [0, -1] },
  { dx: 0, dy: 1, right: [-1, 0], left: [0, 0] },
  { dx: -1, dy: 0, right: [-1, -1], left: [-1, 0] },
  { dx: 0, dy: -1, right: [0, -1], left: [-1, -1] },
] as const

function follow(
  startX: number,
  startY: number,
  isSet: (x: number, y: number) => boolean,
  passUpper: (x: number, y: number) => void,
): [number, number][] {
  const points: [number, number][] = []
  let x = startX
  let y = startY
  let way = 0
  do {
    if (way === 0) passUpper(x, y)
    const { dx, dy } = WAYS[way]!
    x += dx
    y += dy
    const turned = nextWay(x, y, way, isSet)
    if (turned !== way) points.push([x, y])
    way = turned
  } while (x !== startX || y !== startY || way !== 0)
  return points
}

/** Right where nothing is set ahead to the right, left where something is ahead on both sides, else straight on. */
function nextWay(x: number, y: number, way: number, isSet: (x: number, y: number) => boolean): number {
  const { right, left } = WAYS[way]!
  if (!isSet(x + right[0], y + right[1])) return (way + 1) % 4
  return isSet(x + left[0], y + left[1]) ? (way + 3) % 4 : way
}
