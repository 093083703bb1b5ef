/** From terms of a body to values of a puppet's channels. */
import { boneChannel } from '../bones/channels'
import type { Bone } from '../bones/records'
import { directionOf, type Body, type Limb } from './body'
import type { Terms } from './motion'
import { reachWithChain } from '../maths/solve/chain'
import { nearestTurn } from '../maths/solve/reach'
import type { Vec } from '../kernel/numbers'

/** An angle brought into the limits of a bone; of those that look alike the one that needs least of that. */
export function withinLimits({ limits: { min, max } }: Bone, degrees: number): number {
  const clamp = (v: number): number => Math.min(max ?? Infinity, Math.max(min ?? -Infinity, v))
  const alike = [degrees, degrees - 360, degrees + 360]
  return alike.map((v) => ({ v: clamp(v), off: Math.abs(clamp(v) - v) })).sort((a, b) => a.off - b.off)[0]?.v ?? 0
}

/** How an arm or leg is turned so that it is raised by so much from hanging down, whatever way it was drawn. */
function raised({ upper, outwards }: Limb, degrees: number): number {
  return withinLimits(upper, nearestTurn(-90 + outwards * degrees - directionOf(upper), 0))
}

/** How a forearm is turned so that the elbow is bent by so much from straight. */
function bent({ upper, lower, bends }: Limb, degrees: number): number {
  if (!lower) return 0
  return withinLimits(lower, bends * degrees - nearestTurn(directionOf(lower) - directionOf(upper), 0))
}

/** How far a knee is bent before it is looked for where it has to be: to the side to which it bends, degrees. */
const BENT = 20

/** Where a leg begins in the pose, with the turn of what carries it, degrees. */
interface Hip {
  readonly root: Vec
  readonly base: number
}

/** Turns of the bones of a leg, one or two, with which its end comes to a place. */
export function reachWithLeg(bones: readonly Bone[], bends: 1 | -1, { root, base }: Hip, place: Vec): number[] {
  const links = bones.map(({ start, end }, k) => {
    const to = bones[k + 1]?.start ?? end
    return { x: to.x - start.x, y: to.y - start.y }
  })
  const limits = bones.map(({ limits: { min, max } }) => ({ min: min ?? -Infinity, max: max ?? Infinity }))
  const angles = [(-bends * BENT) / 2, bends * BENT].slice(0, bones.length)
  return reachWithChain({ root, base, links, angles, limits }, place)
}

/** Turns of thigh, shin and foot with which the foot stays where it is while the hips sink by so much, px. */
function planted({ upper, lower, bends }: Limb, sunk: number): { upper: number; lower: number; end: number } {
  if (!lower) return { upper: 0, lower: 0, end: 0 }
  const hip = { root: { x: upper.start.x, y: upper.start.y + sunk }, base: 0 }
  const [thigh = 0, shin = 0] = reachWithLeg([upper, lower], bends, hip, lower.end)
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
