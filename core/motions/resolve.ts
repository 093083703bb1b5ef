/** From terms of a body to values of a puppet's channels. */
import { boneChannel } from '../bones/channels'
import type { Bone } from '../bones/records'
import { directionOf, lengthOf, type Body, type Limb } from './body'
import type { Terms } from './motion'
import { toDegrees } from '../maths/geometry/affine'

/** An angle between -180 and 180 degrees. */
const wrapped = (degrees: number): number => ((((degrees + 180) % 360) + 360) % 360) - 180

/** An angle brought into the limits of a bone; of those that look alike the one that needs least of that. */
export function withinLimits({ limits: { min, max } }: Bone, degrees: number): number {
  const clamp = (v: number): number => Math.min(max ?? Infinity, Math.max(min ?? -Infinity, v))
  const alike = [degrees, degrees - 360, degrees + 360]
  return alike.map((v) => ({ v: clamp(v), off: Math.abs(clamp(v) - v) })).sort((a, b) => a.off - b.off)[0]?.v ?? 0
}

/** How an arm or leg is turned so that it is raised by so much from hanging down, whatever way it was drawn. */
function raised({ upper, outwards }: Limb, degrees: number): number {
  return withinLimits(upper, wrapped(-90 + outwards * degrees - directionOf(upper)))
}

/** How a forearm is turned so that the elbow is bent by so much from straight. */
function bent({ upper, lower, bends }: Limb, degrees: number): number {
  if (!lower) return 0
  return withinLimits(lower, bends * degrees - wrapped(directionOf(lower) - directionOf(upper)))
}

/** Turns of thigh, shin and foot with which the foot stays where it is while the hips sink by so much, px (law of cosines). */
function planted(limb: Limb, sunk: number): { upper: number; lower: number; end: number } {
  const { upper, lower, bends } = limb
  if (!lower) return { upper: 0, lower: 0, end: 0 }
  const [a, b] = [lengthOf(upper), lengthOf(lower)]
  const away = { x: lower.end.x - upper.start.x, y: lower.end.y - upper.start.y }
  const was = Math.hypot(away.x, away.y)
  const now = Math.min(a + b - 1e-6, Math.max(Math.abs(a - b) + 1e-6, Math.hypot(away.x, away.y - sunk)))
  const corner = (far: number, p: number, q: number): number =>
    toDegrees(Math.acos(Math.min(1, Math.max(-1, (p * p + q * q - far * far) / (2 * p * q)))))
  const at = (d: number): { hip: number; knee: number } => ({ hip: corner(b, a, d), knee: 180 - corner(d, a, b) })
  const rest = at(Math.min(was, a + b - 1e-6))
  const next = at(now)
  // The knee bends one way, and the thigh goes the other way by what that takes.
  const thigh = -bends * (next.hip - rest.hip)
  const shin = bends * (next.knee - rest.knee)
  return { upper: thigh, lower: shin, end: -(thigh + shin) }
}

/** Bones that lean, by their terms. */
const LEANING = ['spine', 'chest', 'neck', 'head'] as const

/** Strength of a motion on top of a term: 1 is as it was written. */
interface Fitting {
  readonly body: Body
  readonly strength: number
}

/** Values of channels for what a beat says, and roles that it needs and the puppet has not. */
export function resolved({ body, strength }: Fitting, terms: Terms): { values: Record<string, number>; missing: string[] } {
  const values: Record<string, number> = {}
  const missing: string[] = []
  const turn = (bone: Bone | null | undefined, degrees: number, role: string): void => {
    if (!bone) missing.push(role)
    else values[boneChannel(bone.id, 'angle')] = withinLimits(bone, strength * degrees)
  }
  const hips = body.bones.get('hips') ?? body.bones.get('torso')
  const sunk = strength * (terms['hips.down'] ?? 0) * body.leg
  for (const [term, value] of Object.entries(terms)) {
    const [role = '', what = ''] = term.split('.')
    const limb = body.limbs.get(role)
    const lead = body.leads.get(term)
    const leaning = LEANING.find((name) => name === role)
    if (term === 'hips.down' || term === 'hips.side') {
      if (!hips) missing.push('hips')
      else values[boneChannel(hips.id, term === 'hips.down' ? 'y' : 'x')] = strength * value * body.leg
    } else if (leaning && what === 'lean') turn(body.bones.get(leaning), -value, leaning)
    else if (/^(arm|leg):/.test(role)) limbTerm(limb, role, what, value, turn)
    else if (term !== 'feet.free') {
      if (lead) values[lead.channel] = lead.valueAt(Math.min(1, Math.max(-1, strength * value)))
      else missing.push(role)
    }
  }
  if (sunk > 0 && !terms['feet.free']) plantFeet(body, sunk, values)
  return { values, missing: [...new Set(missing)] }
}

function limbTerm(
  limb: Limb | undefined,
  role: string,
  what: string,
  value: number,
  turn: (bone: Bone | null | undefined, degrees: number, role: string) => void,
): void {
  if (!limb) return turn(null, 0, role)
  if (what === 'raise') turn(limb.upper, raised(limb, value), role)
  else if (what === 'lift') turn(limb.upper, limb.outwards * value, role)
  else if (what === 'bend') turn(limb.lower, role.startsWith('arm') ? bent(limb, value) : limb.bends * value, role)
  else if (what === 'turn') turn(limb.end, limb.bends * value, role)
}

/** Legs give way so that feet stay where they are; a leg that something is said of goes its own way. */
function plantFeet(body: Body, sunk: number, values: Record<string, number>): void {
  for (const [name, limb] of body.limbs) {
    if (!name.startsWith('leg') || boneChannel(limb.upper.id, 'angle') in values) continue
    const turns = planted(limb, sunk)
    values[boneChannel(limb.upper.id, 'angle')] = withinLimits(limb.upper, turns.upper)
    if (limb.lower) values[boneChannel(limb.lower.id, 'angle')] = withinLimits(limb.lower, turns.lower)
    if (limb.end) values[boneChannel(limb.end.id, 'angle')] = withinLimits(limb.end, turns.end)
  }
}
