/**
 * Curves through what a hand drew: smooth pieces are fitted by cubics, corners stay corners (Schneider 1990, An
 * algorithm for automatically fitting digitized curves).
 */
import type { Path } from '../records'
import type { Vec } from '../../kernel/numbers'
import { cubicAt } from '../../maths/geometry/pathCut'

/** How closely a curve keeps to the hand, and how its points are numbered. */
export interface FitOptions {
  /** Farthest that the curve may lie from the hand, px. */
  readonly tolerance: number
  /** Ends nearer than this are made one, px. */
  readonly closing: number
  readonly firstId: number
}

/** A turn sharper than this within the reach of the tolerance is a corner, degrees. */
const CORNER = 50
const ROUNDS = 6

/** Fits a path to a drawn line of [x, y] pairs; null where it is no more than a dot. */
export function fitPath(line: readonly number[], { tolerance, closing, firstId }: FitOptions): Path | null {
  const drawn = thinned(line)
  const long = lengthOf(drawn)
  if (drawn.length < 2 || long < 1) return null
  const [first, last] = [drawn[0]!, drawn.at(-1)!]
  const closed = drawn.length > 3 && Math.hypot(last.x - first.x, last.y - first.y) <= closing && long > 3 * closing
  const points = closed ? [...drawn.slice(0, -1), first] : drawn
  const corners = cornersOf(points, tolerance)
  const cubics: number[][] = []
  for (let k = 0; k + 1 < corners.length; k++) {
    const piece = points.slice(corners[k]!, corners[k + 1]! + 1)
    const isRing = closed && corners.length === 2
    const seam = isRing ? direction(points.at(-2)!, points[1]!) : null
    const out = seam ?? tangentAt(piece, 1, tolerance)
    const into = seam ? { x: -seam.x, y: -seam.y } : tangentAt([...piece].reverse(), 1, tolerance)
    fitPiece(piece, out, into, tolerance, cubics)
  }
  return pathOf(cubics, closed, firstId)
}

/** Points closer than half a px to the one before add nothing. */
function thinned(line: readonly number[]): Vec[] {
  const out: Vec[] = []
  for (let i = 0; i < line.length; i += 2) {
    const p = { x: line[i]!, y: line[i + 1]! }
    const before = out.at(-1)
    if (!before || Math.hypot(p.x - before.x, p.y - before.y) >= 0.5 || i === line.length - 2) out.push(p)
  }
  return out
}

const lengthOf = (points: readonly Vec[]): number =>
  points.reduce((sum, p, i) => (i === 0 ? 0 : sum + Math.hypot(p.x - points[i - 1]!.x, p.y - points[i - 1]!.y)), 0)

function direction(a: Vec, b: Vec): Vec {
  const long = Math.hypot(b.x - a.x, b.y - a.y) || 1
  return { x: (b.x - a.x) / long, y: (b.y - a.y) / long }
}

/** Direction of a line at its beginning, taken over a reach that the shake of a hand does not matter on. */
function tangentAt(points: readonly Vec[], from: number, tolerance: number): Vec {
  const start = points[from - 1]!
  for (let i = from; i < points.length; i++)
    if (Math.hypot(points[i]!.x - start.x, points[i]!.y - start.y) >= 3 * tolerance || i === points.length - 1)
      return direction(start, points[i]!)
  return { x: 1, y: 0 }
}

/** Numbers of the points where a line turns sharply, its ends included. */
function cornersOf(points: readonly Vec[], tolerance: number): number[] {
  const reach = Math.max(4 * tolerance, 4)
  const turn = points.map((p, i) => {
    const [a, b] = [awayFrom(points, i, -1, reach), awayFrom(points, i, 1, reach)]
    if (!a || !b) return 0
    const [u, v] = [direction(a, p), direction(p, b)]
    return (Math.acos(Math.min(1, Math.max(-1, u.x * v.x + u.y * v.y))) * 180) / Math.PI
  })
  const out = [0]
  for (let i = 1; i < points.length - 1; i++) {
    if (turn[i]! < CORNER) continue
    const isPeak = turn.every(
      (t, k) => t <= turn[i]! || Math.hypot(points[k]!.x - points[i]!.x, points[k]!.y - points[i]!.y) > reach || k === i,
    )
    const last = out.at(-1)!
    if (isPeak && Math.hypot(points[i]!.x - points[last]!.x, points[i]!.y - points[last]!.y) > reach) out.push(i)
  }
  return [...out, points.length - 1]
}

function awayFrom(points: readonly Vec[], i: number, step: 1 | -1, reach: number): Vec | null {
  for (let k = i + step; k >= 0 && k < points.length; k += step)
    if (Math.hypot(points[k]!.x - points[i]!.x, points[k]!.y - points[i]!.y) >= reach) return points[k]!
  return null
}

function fitPiece(points: readonly Vec[], out: Vec, into: Vec, tolerance: number, cubics: number[][]): void {
  if (points.length === 2) {
    cubics.push(straight(points[0]!, points[1]!))
    return
  }
  let at = chordLengths(points)
  let cubic = bestCubic(points, at, out, into)
  let worst = worstOf(points, at, cubic)
  for (let round = 0; round < ROUNDS && worst.off > tolerance && worst.off < 16 * tolerance; round++) {
    at = reparametrised(points, at, cubic)
    cubic = bestCubic(points, at, out, into)
    worst = worstOf(points, at, cubic)
  }
  if (worst.off <= tolerance) {
    cubics.push(cubic)
    return
  }
  const i = worst.at
  const seam = direction(points[Math.max(0, i - 2)]!, points[Math.min(points.length - 1, i + 2)]!)
  fitPiece(points.slice(0, i + 1), out, { x: -seam.x, y: -seam.y }, tolerance, cubics)
  fitPiece(points.slice(i), seam, into, tolerance, cubics)
}

const straight = (a: Vec, b: Vec): number[] => [
  a.x,
  a.y,
  a.x + (b.x - a.x) / 3,
  a.y + (b.y - a.y) / 3,
  b.x - (b.x - a.x) / 3,
  b.y - (b.y - a.y) / 3,
  b.x,
  b.y,
]

/**
 * The cubic with given directions at its ends that lies nearest to points; directions need not be of unit length. Lengths
 * of the handles are found by Gauss and Newton's method on the distances along the normals.
 */
export function fitCubic(points: readonly Vec[], out: Vec, into: Vec): number[] {
  const [u, v] = [direction({ x: 0, y: 0 }, out), direction({ x: 0, y: 0 }, into)]
  let at = chordLengths(points)
  let cubic = bestCubic(points, at, u, v)
  for (let round = 0; round < 4 * ROUNDS; round++) {
    at = reparametrised(points, reparametrised(points, at, cubic), cubic)
    const step = normalStep(points, at, cubic, u, v)
    if (!step) break
    const [l, r] = step
    cubic = [...cubic.slice(0, 2), cubic[2]! + u.x * l, cubic[3]! + u.y * l, cubic[4]! + v.x * r, cubic[5]! + v.y * r, ...cubic.slice(6)]
    if (Math.hypot(l, r) < 1e-6) break
  }
  return cubic
}

/** Changes of both handles' lengths that bring a cubic nearer to points; null where they would turn a handle round. */
function normalStep(points: readonly Vec[], at: readonly number[], c: readonly number[], out: Vec, into: Vec): [number, number] | null {
  let [a00, a01, a11, b0, b1] = [0, 0, 0, 0, 0]
  points.forEach((p, i) => {
    const t = at[i]!
    const s = 1 - t
    const q = cubicAt(c, t)
    const [dx, dy] = [0, 1].map(
      (k) => s * s * (c[2 + k]! - c[k]!) + 2 * s * t * (c[4 + k]! - c[2 + k]!) + t * t * (c[6 + k]! - c[4 + k]!),
    ) as [number, number]
    const long = Math.hypot(dx, dy)
    if (long < 1e-9) return
    const [nx, ny] = [-dy / long, dx / long]
    const off = (p.x - q.x) * nx + (p.y - q.y) * ny
    const g0 = 3 * s * s * t * (out.x * nx + out.y * ny)
    const g1 = 3 * s * t * t * (into.x * nx + into.y * ny)
    a00 += g0 * g0
    a01 += g0 * g1
    a11 += g1 * g1
    b0 += g0 * off
    b1 += g1 * off
  })
  const det = a00 * a11 - a01 * a01
  if (Math.abs(det) < 1e-12) return null
  const [l, r] = [(b0 * a11 - b1 * a01) / det, (a00 * b1 - a01 * b0) / det]
  const [first, last] = [Math.hypot(c[2]! - c[0]!, c[3]! - c[1]!), Math.hypot(c[4]! - c[6]!, c[5]! - c[7]!)]
  return first + l > 0 && last + r > 0 ? [l, r] : null
}

function chordLengths(points: readonly Vec[]): number[] {
  const out = [0]
  for (let i = 1; i < points.length; i++)
    out.push(out[i - 1]! + Math.hypot(points[i]!.x - points[i - 1]!.x, points[i]!.y - points[i - 1]!.y))
  const total = out.at(-1)! || 1
  return out.map((s) => s / total)
}

/** Least squares for the lengths of both handles. */
function bestCubic(points: readonly Vec[], at: readonly number[], out: Vec, into: Vec): number[] {
  const [first, last] = [points[0]!, points.at(-1)!]
  let [c00, c01, c11, x0, x1] = [0, 0, 0, 0, 0]
  points.forEach((p, i) => {
    const t = at[i]!
    const s = 1 - t
    const [b0, b1, b2, b3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t]
    const a0 = { x: out.x * b1, y: out.y * b1 }
    const a1 = { x: into.x * b2, y: into.y * b2 }
    const rest = { x: p.x - first.x * (b0 + b1) - last.x * (b2 + b3), y: p.y - first.y * (b0 + b1) - last.y * (b2 + b3) }
    c00 += a0.x * a0.x + a0.y * a0.y
    c01 += a0.x * a1.x + a0.y * a1.y
    c11 += a1.x * a1.x + a1.y * a1.y
    x0 += a0.x * rest.x + a0.y * rest.y
    x1 += a1.x * rest.x + a1.y * rest.y
  })
  const det = c00 * c11 - c01 * c01
  const chord = Math.hypot(last.x - first.x, last.y - first.y)
  let [l, r] = Math.abs(det) < 1e-12 ? [0, 0] : [(x0 * c11 - x1 * c01) / det, (c00 * x1 - c01 * x0) / det]
  // Handles that vanish or turn round make loops; a third of the way is the usual guess.
  if (l < 1e-3 * chord || r < 1e-3 * chord) l = r = (chord || lengthOf(points) / 2) / 3
  return [first.x, first.y, first.x + out.x * l, first.y + out.y * l, last.x + into.x * r, last.y + into.y * r, last.x, last.y]
}

function worstOf(points: readonly Vec[], at: readonly number[], cubic: readonly number[]): { at: number; off: number } {
  let worst = { at: Math.floor(points.length / 2), off: 0 }
  for (let i = 1; i < points.length - 1; i++) {
    const p = cubicAt(cubic, at[i]!)
    const off = Math.hypot(p.x - points[i]!.x, p.y - points[i]!.y)
    if (off > worst.off) worst = { at: i, off }
  }
  return worst
}

/** One step of Newton's for each point towards the nearest spot of the curve. */
const reparametrised = (points: readonly Vec[], at: readonly number[], c: readonly number[]): number[] =>
  points.map((p, i) => {
    const t = at[i]!
    if (i === 0 || i === points.length - 1) return t
    const s = 1 - t
    const q = cubicAt(c, t)
    const d = [0, 1].map((k) => 3 * (s * s * (c[2 + k]! - c[k]!) + 2 * s * t * (c[4 + k]! - c[2 + k]!) + t * t * (c[6 + k]! - c[4 + k]!)))
    const e = [0, 1].map((k) => 6 * (s * (c[4 + k]! - 2 * c[2 + k]! + c[k]!) + t * (c[6 + k]! - 2 * c[4 + k]! + c[2 + k]!)))
    const top = (q.x - p.x) * d[0]! + (q.y - p.y) * d[1]!
    const bottom = d[0]! ** 2 + d[1]! ** 2 + (q.x - p.x) * e[0]! + (q.y - p.y) * e[1]!
    return Math.abs(bottom) < 1e-12 ? t : Math.min(1, Math.max(0, t - top / bottom))
  })

function pathOf(cubics: readonly number[][], closed: boolean, firstId: number): Path {
  const n = closed ? cubics.length : cubics.length + 1
  const anchors = Array.from({ length: n }, (_, i) => (i < cubics.length ? cubics[i]!.slice(0, 2) : cubics.at(-1)!.slice(6))).flat()
  const handles = new Array<number>(4 * n).fill(0)
  cubics.forEach((c, i) => {
    const j = (i + 1) % n
    handles[4 * i + 2] = c[2]! - c[0]!
    handles[4 * i + 3] = c[3]! - c[1]!
    handles[4 * j] = c[4]! - c[6]!
    handles[4 * j + 1] = c[5]! - c[7]!
  })
  return { closed, ids: Array.from({ length: n }, (_, i) => firstId + i), anchors, handles }
}
