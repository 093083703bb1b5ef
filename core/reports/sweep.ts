/**
 * Looking for faults of a joint in pictures of it: holes, corners and doubled lines.
 *
 * Pure pixel work. Each picture shows the two pieces of a joint alone, painted in signal colours: inks blue, lines of
 * the lower piece red, lines of the upper one green. So what is seen of which line can be read off a pixel, and alpha
 * is the silhouette.
 */

import { distanceTo } from '../maths/geometry/distance'
import { flood } from '../maths/geometry/flood'
import type { PixelData } from '../maths/geometry/raster'
import { traceBorders } from '../maths/geometry/trace'

/** Colour that stands for a line where a joint is looked at. */
export const INK_SIGNAL = '#0000ff'

/** Colour that stands for the piece below. */
export const UNDER_SIGNAL = '#ff0000'

/** Colour that stands for the piece on top. */
export const OVER_SIGNAL = '#00ff00'

/** What a joint looks like at one angle, in pictures of `size` by `size` pixels. */
export interface JointView {
  readonly size: number
  /** The pivot, px. */
  readonly x: number
  readonly y: number
  /** Radius of the joint's disc, px. */
  readonly radius: number
  /** Width of the lines, px; 0 without. */
  readonly line: number
  /** Width of a pixel of the pieces' own pictures, px; 0 for drawings. Their edges are no sharper than that. */
  readonly grain: number
  /** [4 size²] both pieces in signal colours, straight alpha */
  readonly both: PixelData
  /** Draws [4 size²] each piece alone; null where there are no lines to be told apart. Asked for only where a line is seen inside. */
  readonly alone: (() => { readonly under: PixelData; readonly over: PixelData }) | null
  /** Draws [4 size²] what is painted above both and hides them; null where nothing is. Asked for only where a fault is seen. */
  readonly above: (() => PixelData) | null
}

/** Faults in pixels. */
export interface Faults {
  /** Background seen inside of what the joint covers at rest, or enclosed between the pieces. */
  readonly holes: number
  /** Stretch of the silhouette near the joint that turns sharply outward. */
  readonly corners: number
  /** Lines seen beside another outline, inside of the silhouette. */
  readonly doubled: number
}

/** What is known of a joint from its picture at rest. */
export interface JointRest {
  /** Radius of the disc about the pivot that is covered whole, px. */
  readonly solid: number
  /** Corners of the silhouette: they belong to the pieces and go with them. x, y relative to the pivot. */
  readonly corners: readonly (readonly [number, number])[]
  /** Holes that the drawing has by itself, px. */
  readonly holes: number
  /** Lines inside of the silhouette that it has by itself, px. */
  readonly doubled: number
}

const OPAQUE = 128
/** Enclosed background within so many radii is a gap between the pieces; farther out a limb only touches something. */
const BETWEEN = 1.15
/** Gaps of up to this share of the radius (and at least this many px) at rest are gaps, not a narrow limb. */
const CLOSING = 0.3
const LEAST_CLOSING = 3

const alphaMask = (pixels: PixelData): Uint8Array => {
  const out = new Uint8Array(pixels.length / 4)
  for (let i = 0; i < out.length; i++) out[i] = pixels[4 * i + 3]! >= OPAQUE ? 1 : 0
  return out
}

/** Tells whether a pixel is hidden by what is painted above, which is drawn with the first question. */
type Hides = (pixel: number) => boolean

function hiding({ above }: JointView): Hides {
  if (!above) return () => false
  let pixels: PixelData | null = null
  return (pixel) => (pixels ??= above())[4 * pixel + 3]! >= OPAQUE
}

/** Reads a joint at rest. */
export function readRest(view: JointView): JointRest {
  const mask = alphaMask(view.both)
  const closed = closing(mask, view.size, Math.max(LEAST_CLOSING, CLOSING * view.radius))
  const gap = distanceTo(closed, view.size, 0)
  const at = Math.round(view.y) * view.size + Math.round(view.x)
  return {
    solid: Math.min(view.radius, Math.max(0, gap[at]! - 1)),
    corners: cornersOf(mask, view).map(([x, y]) => [x - view.x, y - view.y] as const),
    holes: enclosed(mask, view, hiding(view)),
    doubled: doubledOf(mask, view, hiding(view)),
  }
}

/**
 * Counts the faults of a joint at one angle.
 *
 * @param turns how the pieces were turned since rest, degrees, counter-clockwise: corners that go with a piece are its own
 */
export function findFaults(view: JointView, rest: JointRest, turns: { under: number; over: number }): Faults {
  const mask = alphaMask(view.both)
  const hides = hiding(view)
  return {
    holes: holesOf(mask, view, hides, rest),
    corners: newCorners(mask, view, hides, rest, turns),
    doubled: doubledOf(mask, view, hides),
  }
}

/** Background seen inside of what a joint covers at rest, or enclosed between the pieces, px: holes alone. */
export const openedOf = (view: JointView, rest: JointRest): number =>
  holesOf(alphaMask(view.both), view, hiding(view), { ...rest, solid: Math.min(rest.solid, view.radius) })

function holesOf(mask: Uint8Array, view: JointView, hides: Hides, rest: JointRest): number {
  const { size, x, y } = view
  // Pixels on the rim of the disc are half outside by themselves.
  const reach = rest.solid - 1 - 0.75 * view.grain
  let count = 0
  for (let py = 0; py < size; py++)
    for (let px = 0; px < size; px++) {
      const i = py * size + px
      if (mask[i] || Math.hypot(px + 0.5 - x, py + 0.5 - y) > reach) continue
      if (!hides(i)) count++
    }
  return count + Math.max(0, enclosed(mask, view, hides, reach) - rest.holes)
}

/** Background about the joint that cannot be reached from outside; pixels inside `except` are counted elsewhere. */
function enclosed(mask: Uint8Array, { size, x, y, radius }: JointView, hides: Hides, except = 0): number {
  const rim = Array.from({ length: size }, (_, k) => [k, size * (size - 1) + k, k * size, k * size + size - 1]).flat()
  const outside = flood(mask, size, size, rim)
  let count = 0
  for (let i = 0; i < mask.length; i++) {
    if (mask[i] || outside[i]) continue
    const far = Math.hypot((i % size) + 0.5 - x, Math.floor(i / size) + 0.5 - y)
    if (far <= BETWEEN * radius && far > except && !hides(i)) count++
  }
  return count
}

/** Grown by a reach and shrunk again: gaps narrower than twice the reach are closed. */
function closing(mask: Uint8Array, size: number, reach: number): Uint8Array {
  const grown = distanceTo(mask, size, 1).map((d) => (d <= reach ? 1 : 0))
  const back = distanceTo(Uint8Array.from(grown), size, 0)
  return Uint8Array.from(back, (d, i) => (mask[i] || d > reach ? 1 : 0))
}

/** Sharpest outward turn of a silhouette that is no corner, degrees over the window. */
const SHARP = 50
/** Half the window of a turn as a share of the radius, and at least so many px. */
const WINDOW = 0.24
const LEAST_WINDOW = 4
/** Corners are looked for within so many radii of the pivot. */
const NEAR = 1.5
/** Distance at which a corner is known again, px. */
const SAME_CORNER = 4

/** Spots of the silhouette near the joint that turn sharply outward, one for each px of the way. */
function cornersOf(mask: Uint8Array, { size, x, y, radius }: JointView): [number, number][] {
  const out: [number, number][] = []
  const half = Math.max(LEAST_WINDOW, WINDOW * radius)
  for (const way of contours(mask, size)) {
    const n = way.length / 2
    const reach = Math.round(half)
    if (n < 4 * reach) continue
    const at = (i: number, axis: 0 | 1): number => way[2 * (((i % n) + n) % n) + axis]!
    for (let i = 0; i < n; i++) {
      const [px, py] = [at(i, 0), at(i, 1)]
      if (px < 3 || py < 3 || px > size - 3 || py > size - 3) continue
      if (Math.hypot(px - x, py - y) > NEAR * radius) continue
      const [ax, ay] = [px - at(i - reach, 0), py - at(i - reach, 1)]
      const [bx, by] = [at(i + reach, 0) - px, at(i + reach, 1) - py]
      const turn = (Math.atan2(ax * by - ay * bx, ax * bx + ay * by) * 180) / Math.PI
      // The silhouette lies to the right of the way: outward is a turn to the right, positive with y down. A round
      // end turns by itself as far as its radius asks.
      const round = (half / Math.max(radius, 1)) * (180 / Math.PI)
      if (turn > SHARP + round) out.push([px, py])
    }
  }
  return out
}

/**
 * Borders of a mask, clockwise, as points one px apart: the middles of its edges, smoothed over seven of them so that
 * the steps of pixels do not count as turns.
 */
const contours = (mask: Uint8Array, size: number): Float64Array[] =>
  traceBorders({ width: size, height: size, cells: mask }).map((corners) => smoothed(middlesOf(corners)))

function middlesOf(corners: readonly (readonly [number, number])[]): number[] {
  return corners.flatMap(([x, y], i) => {
    const [nx, ny] = corners[(i + 1) % corners.length]!
    const steps = Math.abs(nx - x) + Math.abs(ny - y)
    const [dx, dy] = [Math.sign(nx - x), Math.sign(ny - y)]
    return Array.from({ length: steps }, (_, k) => [x + (k + 0.5) * dx, y + (k + 0.5) * dy]).flat()
  })
}

function smoothed(points: readonly number[]): Float64Array {
  const n = points.length / 2
  const out = new Float64Array(points.length)
  for (let i = 0; i < n; i++)
    for (const axis of [0, 1]) {
      let sum = 0
      for (let k = -3; k <= 3; k++) sum += points[2 * ((((i + k) % n) + n) % n) + axis]!
      out[2 * i + axis] = sum / 7
    }
  return out
}

function newCorners(mask: Uint8Array, view: JointView, hides: Hides, rest: JointRest, turns: { under: number; over: number }): number {
  const { size } = view
  const pixelAt = (px: number, py: number): number => Math.min(size - 1, Math.floor(py)) * size + Math.min(size - 1, Math.floor(px))
  const own = [turns.under, turns.over].flatMap((degrees) => {
    const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
    return rest.corners.map(([cx, cy]) => [view.x + cos * cx + sin * cy, view.y - sin * cx + cos * cy] as const)
  })
  return cornersOf(mask, view).filter(
    ([px, py]) => !own.some(([cx, cy]) => Math.hypot(px - cx, py - cy) <= SAME_CORNER) && !hides(pixelAt(px, py)),
  ).length
}

/** Share of a pixel from which on a line is seen in it. */
const SEEN = 0.5

/**
 * Lines of either piece that are outlines of it, seen inside of the common silhouette, about the joint. The crease on
 * the inner side of a bend, where the upper piece's side lies over the lower piece, belongs there.
 */
function doubledOf(mask: Uint8Array, view: JointView, hides: Hides): number {
  const { size, line, both, alone } = view
  if (line === 0 || !alone) return 0
  const deep = 1.5 * line + 1.5
  const seen = linesInside(mask, view, deep).filter((i) => !hides(i))
  if (seen.length === 0) return 0
  const pieces = alone()
  const under = alphaMask(pieces.under)
  const over = alphaMask(pieces.over)
  const insideUnder = distanceTo(under, size, 0)
  const insideOver = distanceTo(over, size, 0)
  const isCrease = creaseTest(view, under, over)
  return seen.filter((i) => {
    const isUnder = isSeen(both[4 * i]!) && insideUnder[i]! <= deep
    const isOver = isSeen(both[4 * i + 1]!) && insideOver[i]! <= deep
    return (isUnder || isOver) && !isCrease((i % size) + 0.5 - view.x, Math.floor(i / size) + 0.5 - view.y)
  }).length
}

const isSeen = (signal: number): boolean => signal / 255 > SEEN

/** Pixels about the joint that show a line of either piece deep inside of the common silhouette. */
function linesInside(mask: Uint8Array, { size, x, y, radius, line, both }: JointView, deep: number): number[] {
  const out: number[] = []
  let inside: Float64Array | null = null
  for (let py = 0; py < size; py++)
    for (let px = 0; px < size; px++) {
      const i = py * size + px
      if (!mask[i] || !(isSeen(both[4 * i]!) || isSeen(both[4 * i + 1]!))) continue
      if (Math.hypot(px + 0.5 - x, py + 0.5 - y) > radius + line) continue
      inside ??= distanceTo(mask, size, 0)
      if (inside[i]! > deep) out.push(i)
    }
  return out
}

/** Tells whether a direction from the pivot lies on the inner side of the bend. */
function creaseTest(view: JointView, under: Uint8Array, over: Uint8Array): (dx: number, dy: number) => boolean {
  const a = axisOf(view, under, over)
  const b = axisOf(view, over, under)
  if (!a || !b) return () => false
  const [mx, my] = [a[0] + b[0], a[1] + b[1]]
  const length = Math.hypot(mx, my)
  // Straight: neither side is the inner one, and there is no crease.
  const bend = Math.PI - Math.acos(Math.max(-1, Math.min(1, a[0] * b[0] + a[1] * b[1])))
  if (length < 1e-6 || bend < 0.05) return () => false
  const half = bend / 2 + (2 * (view.line + 1.5)) / Math.max(view.radius, 1)
  return (dx, dy) => {
    const r = Math.hypot(dx, dy)
    if (r < view.radius - 1.5 * view.line - 1) return false
    return Math.acos(Math.max(-1, Math.min(1, (dx * mx + dy * my) / (length * Math.max(r, 1e-9))))) <= half
  }
}

/** The way in which a piece leaves the joint: towards the middle of what it has for itself beyond the disc. */
function axisOf({ size, x, y, radius }: JointView, own: Uint8Array, other: Uint8Array): [number, number] | null {
  let [sx, sy, n] = [0, 0, 0]
  for (let i = 0; i < own.length; i++) {
    if (!own[i] || other[i]) continue
    const [dx, dy] = [(i % size) + 0.5 - x, Math.floor(i / size) + 0.5 - y]
    const far = Math.hypot(dx, dy)
    if (far < radius || far > 2.2 * radius) continue
    sx += dx / far
    sy += dy / far
    n++
  }
  const length = Math.hypot(sx, sy)
  return n === 0 || length < 1e-6 ? null : [sx / length, sy / length]
}
