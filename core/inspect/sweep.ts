/**
 * Looking for faults of a joint in pictures of it: holes, corners and doubled lines.
 *
 * Pure pixel work. Each picture shows the two pieces of a joint alone, painted in signal colours: inks blue, lines of
 * the lower piece red, lines of the upper one green. So what is seen of which line can be read off a pixel, and alpha
 * is the silhouette.
 */

import type { PixelData } from '../geometry/raster'

export const INK_SIGNAL = '#0000ff'
export const UNDER_SIGNAL = '#ff0000'
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
  /** [4 size²] each piece alone */
  readonly under: PixelData
  readonly over: PixelData
  /** [4 size²] what is painted above both and hides them; null where nothing is */
  readonly above: PixelData | null
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

/** Reads a joint at rest. */
export function readRest(view: JointView): JointRest {
  const mask = alphaMask(view.both)
  const closed = closing(mask, view.size, Math.max(LEAST_CLOSING, CLOSING * view.radius))
  const gap = distanceTo(closed, view.size, 0)
  const at = Math.round(view.y) * view.size + Math.round(view.x)
  return {
    solid: Math.min(view.radius, Math.max(0, gap[at]! - 1)),
    corners: cornersOf(mask, view).map(([x, y]) => [x - view.x, y - view.y] as const),
    holes: enclosed(mask, view),
  }
}

/**
 * Counts the faults of a joint at one angle.
 *
 * @param turns how the pieces were turned since rest, degrees, counter-clockwise: corners that go with a piece are its own
 */
export function findFaults(view: JointView, rest: JointRest, turns: { under: number; over: number }): Faults {
  const mask = alphaMask(view.both)
  return { holes: holesOf(mask, view, rest), corners: newCorners(mask, view, rest, turns), doubled: doubledOf(mask, view) }
}

function holesOf(mask: Uint8Array, view: JointView, rest: JointRest): number {
  const { size, x, y, above } = view
  // Pixels on the rim of the disc are half outside by themselves.
  const reach = rest.solid - 1 - 0.75 * view.grain
  let count = 0
  for (let py = 0; py < size; py++)
    for (let px = 0; px < size; px++) {
      const i = py * size + px
      if (mask[i] || Math.hypot(px + 0.5 - x, py + 0.5 - y) > reach) continue
      if (above && above[4 * i + 3]! >= OPAQUE) continue
      count++
    }
  return count + Math.max(0, enclosed(mask, view, reach) - rest.holes)
}

/** Background about the joint that cannot be reached from outside; pixels inside `except` are counted elsewhere. */
function enclosed(mask: Uint8Array, { size, x, y, radius, above }: JointView, except = 0): number {
  const outside = new Uint8Array(mask.length)
  const stack: number[] = []
  const push = (px: number, py: number): void => {
    if (px < 0 || py < 0 || px >= size || py >= size) return
    const i = py * size + px
    if (mask[i] || outside[i]) return
    outside[i] = 1
    stack.push(i)
  }
  for (let k = 0; k < size; k++) {
    push(k, 0)
    push(k, size - 1)
    push(0, k)
    push(size - 1, k)
  }
  while (stack.length > 0) {
    const i = stack.pop()!
    const px = i % size
    const py = (i - px) / size
    push(px + 1, py)
    push(px - 1, py)
    push(px, py + 1)
    push(px, py - 1)
  }
  let count = 0
  for (let i = 0; i < mask.length; i++) {
    if (mask[i] || outside[i] || (above && above[4 * i + 3]! >= OPAQUE)) continue
    const far = Math.hypot((i % size) + 0.5 - x, Math.floor(i / size) + 0.5 - y)
    if (far <= BETWEEN * radius && far > except) count++
  }
  return count
}

/** Grown by a reach and shrunk again: gaps narrower than twice the reach are closed. */
function closing(mask: Uint8Array, size: number, reach: number): Uint8Array {
  const grown = distanceTo(mask, size, 1).map((d) => (d <= reach ? 1 : 0))
  const back = distanceTo(Uint8Array.from(grown), size, 0)
  return Uint8Array.from(back, (d, i) => (mask[i] || d > reach ? 1 : 0))
}

/**
 * Distance of each pixel to the nearest one of a value (Felzenszwalb and Huttenlocher 2012). What lies beyond the
 * border has no value.
 */
export function distanceTo(mask: Uint8Array, size: number, value: 0 | 1): Float64Array {
  const FAR = 1e9
  const out = Float64Array.from(mask, (v) => (v === value ? 0 : FAR))
  const f = new Float64Array(size)
  const v = new Int32Array(size)
  const z = new Float64Array(size + 1)
  const pass = (start: number, step: number): void => {
    for (let q = 0; q < size; q++) f[q] = out[start + q * step]!
    let k = 0
    v[0] = 0
    z[0] = -Infinity
    z[1] = Infinity
    for (let q = 1; q < size; q++) {
      let s = (f[q]! + q * q - (f[v[k]!]! + v[k]! * v[k]!)) / (2 * q - 2 * v[k]!)
      while (s <= z[k]!) {
        k--
        s = (f[q]! + q * q - (f[v[k]!]! + v[k]! * v[k]!)) / (2 * q - 2 * v[k]!)
      }
      v[++k] = q
      z[k] = s
      z[k + 1] = Infinity
    }
    k = 0
    for (let q = 0; q < size; q++) {
      while (z[k + 1]! < q) k++
      out[start + q * step] = (q - v[k]!) ** 2 + f[v[k]!]!
    }
  }
  for (let x = 0; x < size; x++) pass(x, size)
  for (let y = 0; y < size; y++) pass(y * size, 1)
  return out.map(Math.sqrt)
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
 * Borders of a mask, clockwise, as points about one px apart: crossings of the mask's edges, smoothed over five of
 * them so that the steps of pixels do not count as turns.
 */
function contours(mask: Uint8Array, size: number): Float64Array[] {
  const isSet = (px: number, py: number): boolean => px >= 0 && py >= 0 && px < size && py < size && mask[py * size + px] === 1
  const seen = new Uint8Array(mask.length)
  const out: Float64Array[] = []
  // Ways along the edges of pixels: east, south, west, north; what is set lies to the right.
  const DX = [1, 0, -1, 0]
  const DY = [0, 1, 0, -1]
  for (let sy = 0; sy < size; sy++)
    for (let sx = 0; sx < size; sx++) {
      if (!isSet(sx, sy) || isSet(sx, sy - 1) || seen[sy * size + sx]) continue
      const points: number[] = []
      let [cx, cy, way] = [sx, sy, 0]
      do {
        points.push(cx + DX[way]! / 2, cy + DY[way]! / 2)
        if (way === 0) seen[cy * size + cx] = 1
        cx += DX[way]!
        cy += DY[way]!
        // The two pixels ahead: to the left and to the right of the way.
        const left = isSet(cx + [0, 0, -1, -1][way]!, cy + [-1, 0, 0, -1][way]!)
        const right = isSet(cx + [0, -1, -1, 0][way]!, cy + [0, 0, -1, -1][way]!)
        if (left) way = (way + 3) % 4
        else if (!right) way = (way + 1) % 4
      } while (cx !== sx || cy !== sy || way !== 0)
      out.push(smoothed(points))
    }
  return out
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

function newCorners(mask: Uint8Array, view: JointView, rest: JointRest, turns: { under: number; over: number }): number {
  const own = [turns.under, turns.over].flatMap((degrees) => {
    const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
    return rest.corners.map(([cx, cy]) => [view.x + cos * cx + sin * cy, view.y - sin * cx + cos * cy] as const)
  })
  return cornersOf(mask, view).filter(
    ([px, py]) => !own.some(([cx, cy]) => Math.hypot(px - cx, py - cy) <= SAME_CORNER) && !isHidden(view, px, py),
  ).length
}

const isHidden = ({ size, above }: JointView, px: number, py: number): boolean =>
  above !== null && above[4 * (Math.min(size - 1, Math.floor(py)) * size + Math.min(size - 1, Math.floor(px))) + 3]! >= OPAQUE

/** Share of a pixel from which on a line is seen in it. */
const SEEN = 0.5

/**
 * Lines of either piece that are outlines of it, seen inside of the common silhouette, about the joint. The crease on
 * the inner side of a bend, where the upper piece's side lies over the lower piece, belongs there.
 */
function doubledOf(mask: Uint8Array, view: JointView): number {
  const { size, x, y, radius, line, both, above } = view
  if (line === 0) return 0
  const under = alphaMask(view.under)
  const over = alphaMask(view.over)
  const inside = distanceTo(mask, size, 0)
  const insideUnder = distanceTo(under, size, 0)
  const insideOver = distanceTo(over, size, 0)
  const isCrease = creaseTest(view, under, over)
  const deep = 1.5 * line + 1.5
  let count = 0
  for (let py = 0; py < size; py++)
    for (let px = 0; px < size; px++) {
      const i = py * size + px
      const [dx, dy] = [px + 0.5 - x, py + 0.5 - y]
      if (!mask[i] || Math.hypot(dx, dy) > radius + line || inside[i]! <= deep) continue
      if (above && above[4 * i + 3]! >= OPAQUE) continue
      const isUnder = both[4 * i]! / 255 > SEEN && insideUnder[i]! <= deep
      const isOver = both[4 * i + 1]! / 255 > SEEN && insideOver[i]! <= deep
      if ((isUnder || isOver) && !isCrease(dx, dy)) count++
    }
  return count
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
