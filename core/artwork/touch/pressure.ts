/** Thickness of a drawn line by the pressure of a pen. */
import type { Path } from '../records'
import { cubicAt, segmentAt, segmentCount } from '../../maths/geometry/pathCut'
import { addPoint } from './points'

/** Pressures of 0 to 1; half of it draws the line as thick as it is set, and no line is thinner than this share. */
const THINNEST = 0.06
/** Share of the line over which the shake of the hand's pressure is evened out, to each side. */
const EVENED = 0.02
/** Thickness may differ from what was pressed by this share before a point is added. */
const TOLERANCE = 0.12
/** Points are no nearer to each other than this share of the line. */
const APART = 0.03
const STEPS = 24

/** A place along a line, 0 to 1, with the thickness there. */
interface Pressed {
  readonly along: number
  readonly width: number
}

/**
 * A path that follows a drawn line, with the thickness that the pen pressed: points are added where thickness changes
 * (Ramer 1972, Douglas and Peucker 1973, on the thickness along the line), and the curve stays what it is.
 *
 * @param line of [n] times x, y as it was drawn, px
 * @param pressures [n] of 0 to 1
 * @param nextId gives ids for added points
 */
export function pressedPath(path: Path, line: readonly number[], pressures: readonly number[], nextId: () => number): Path {
  const profile = evened(profileOf(line, pressures))
  if (profile.length < 2) return path
  let out = path
  const knots = knotsOf(profile, 0, profile.length - 1).map((k) => profile[k]!.along)
  for (const along of knots) out = withPointAt(out, along, nextId)
  const { at, total } = lengthsOf(out)
  return { ...out, widths: out.ids.map((_, i) => widthAt(profile, at[i]! / total)) }
}

function profileOf(line: readonly number[], pressures: readonly number[]): Pressed[] {
  let long = 0
  const places = pressures.map((_, i) => {
    if (i > 0) long += Math.hypot(line[2 * i]! - line[2 * i - 2]!, line[2 * i + 1]! - line[2 * i - 1]!)
    return long
  })
  if (long === 0) return []
  return pressures.map((p, i) => ({ along: places[i]! / long, width: Math.min(2, Math.max(THINNEST, 2 * p)) }))
}

/** The mean over what is near on the line. */
function evened(profile: readonly Pressed[]): Pressed[] {
  let [from, to, sum] = [0, 0, 0]
  return profile.map(({ along }) => {
    for (; to < profile.length && profile[to]!.along <= along + EVENED; to++) sum += profile[to]!.width
    for (; profile[from]!.along < along - EVENED; from++) sum -= profile[from]!.width
    return { along, width: sum / (to - from) }
  })
}

/** Numbers of the places between two that are needed so that straight thickness between them is near enough everywhere. */
function knotsOf(profile: readonly Pressed[], from: number, to: number): number[] {
  const [a, b] = [profile[from]!, profile[to]!]
  let worst = { off: TOLERANCE, at: -1 }
  for (let i = from + 1; i < to; i++) {
    const share = (profile[i]!.along - a.along) / Math.max(b.along - a.along, 1e-9)
    const off = Math.abs(profile[i]!.width - a.width - share * (b.width - a.width))
    if (off > worst.off) worst = { off, at: i }
  }
  return worst.at < 0 ? [] : [...knotsOf(profile, from, worst.at), worst.at, ...knotsOf(profile, worst.at, to)]
}

function widthAt(profile: readonly Pressed[], along: number): number {
  const next = profile.findIndex((p) => p.along >= along)
  if (next < 0) return profile.at(-1)!.width
  const [a, b] = [profile[Math.max(0, next - 1)]!, profile[next]!]
  const share = b.along > a.along ? (along - a.along) / (b.along - a.along) : 0
  return a.width + share * (b.width - a.width)
}

/** How far along the path each of its points lies, px, and how long it is. */
function lengthsOf(path: Path): { at: number[]; total: number } {
  const at = [0]
  for (let i = 0; i < segmentCount(path); i++) at.push(at[i]! + stepsOf(path, i).reduce((sum, s) => sum + s, 0))
  return { at, total: Math.max(at.at(-1)!, 1e-9) }
}

/** Lengths of the chords over even steps of a segment. */
function stepsOf(path: Path, i: number): number[] {
  const c = segmentAt(path, i)
  let before = cubicAt(c, 0)
  return Array.from({ length: STEPS }, (_, k) => {
    const next = cubicAt(c, (k + 1) / STEPS)
    const step = Math.hypot(next.x - before.x, next.y - before.y)
    before = next
    return step
  })
}

/** The path with a point so far along it, unless one is near. */
function withPointAt(path: Path, along: number, nextId: () => number): Path {
  const { at, total } = lengthsOf(path)
  if (at.some((place) => Math.abs(place / total - along) < APART)) return path
  const i = at.findIndex((place) => place / total > along) - 1
  let left = along * total - at[i]!
  const steps = stepsOf(path, i)
  const k = steps.findIndex((step) => (left -= step) <= 0)
  const t = k < 0 ? 1 : (k + 1 + left / Math.max(steps[k]!, 1e-9)) / STEPS
  return addPoint(path, i, t, nextId())
}
