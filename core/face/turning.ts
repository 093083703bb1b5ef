/**
 * Proposals for turning a head or a body: parts lie on a rounded form, each at its depth; turned, they shift, are foreshortened,
 * and what is at the back goes behind. A proposal is a pad with nine stops, of which rest is one; the rigger corrects it.
 */
import type { PartId } from '../kernel/ids'
import type { Change, Response, Stop } from '../responses/records'
import type { Control } from '../controls/records'
import type { Puppet } from '../puppet/schema'
import type { Vec } from '../kernel/numbers'
import { isWithinPart, restBounds, restMatrix } from '../parts/tree'
import { toRadians } from '../maths/geometry/affine'
import type { Bounds } from '../maths/geometry/bounds'
import { newControl } from '../controls/new'
import { newResponse } from '../responses/new'
import { sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'

/** A part of a form that turns, and how far it lies in front. */
export interface TurnedPart {
  readonly part: PartId
  /** How far in front of the middle it lies, as a share of the form's radius; 1 is on its surface at the middle, -1 at the back. */
  readonly depth: number
  /** Whether it keeps its size: what is all of the form, or round itself like an arm, is seen from every side. */
  readonly keepsSize: boolean
  /** Whether it goes behind the others when it is turned to the far side, like an ear, or an arm. */
  readonly goesBehind: boolean
}

/** How a form turns: its parts and how far it goes. */
export interface Turning {
  /** The form that is turned: its middle and radius come from its bounds. */
  readonly group: PartId
  readonly parts: readonly TurnedPart[]
  /** Greatest turn to a side and up or down, degrees. */
  readonly yaw: number
  readonly pitch: number
}

/** What names of parts say of their depth. */
const DEPTHS: readonly (readonly [RegExp, Partial<TurnedPart> & { depth: number }])[] = [
  [/hair.*back|back.*hair|nape/, { depth: -0.55 }],
  [/\bear|horn/, { depth: 0, goesBehind: true }],
  [/nose|beak|snout|muzzle/, { depth: 1.2 }],
  [/peak|brim/, { depth: 1.12 }],
  [/cap|hat|helmet|crown/, { depth: 0.55, keepsSize: true }],
  [/fringe|bangs/, { depth: 0.85, keepsSize: true }],
  [/brow/, { depth: 0.98 }],
  [/eye|iris|lid|glasses/, { depth: 0.92 }],
  [/mouth|lip|teeth/, { depth: 1 }],
  [/freckle|cheek|blush|beard|moustache/, { depth: 0.9 }],
  [/\barm/, { depth: 0, keepsSize: true, goesBehind: true }],
  [/bag|satchel|pack/, { depth: 0.3, keepsSize: true, goesBehind: true }],
  [/strap|belt|sash/, { depth: 0.15, keepsSize: true }],
  [/button|placket|pocket|badge|buckle|tie|scarf|collar/, { depth: 0.9 }],
  [/face|head|skull|jacket|body|chest|torso/, { depth: 0, keepsSize: true }],
]

/** Whether a part is the form itself that is turned. */
const isForm = ({ depth, keepsSize, goesBehind }: Partial<TurnedPart>): boolean => depth === 0 && keepsSize === true && !goesBehind

/** What of a figure does not turn with its body: a head has a turn of its own, and legs stand. */
const APART = /head|neck|hair|face|leg|thigh|shin|knee|foot|feet|boot|shoe|sock/

/** Whether what is turned stands on the whole figure, or is one form such as a head. */
export const isFigure = (puppet: Puppet, group: PartId): boolean =>
  partOf(puppet, group).children.some((id) => /\barm|jacket|body|torso|chest/i.test(partOf(puppet, id).name))

/** Parts of a figure that turn with its body: arms and bags whole, what lies on the body piece by piece. */
function onBody(puppet: Puppet, group: PartId): PartId[] {
  return partOf(puppet, group).children.flatMap((id) => {
    const name = partOf(puppet, id).name.toLowerCase()
    if (APART.test(name)) return []
    const known = DEPTHS.find(([words]) => words.test(name))?.[1]
    return known && isForm(known) && partOf(puppet, id).children.length > 0 ? onBody(puppet, id) : [id]
  })
}

/** Depths of the parts that turn with a group, as their names tell; what they do not tell lies halfway to the surface. */
export function depthsOf(puppet: Puppet, group: PartId): TurnedPart[] {
  const parts = isFigure(puppet, group) ? onBody(puppet, group) : partOf(puppet, group).children
  return parts
    .filter((id) => restBounds(puppet, id))
    .map((part) => {
      const name = partOf(puppet, part).name.toLowerCase()
      const known = DEPTHS.find(([words]) => words.test(name))?.[1]
      return { part, depth: 0.5, keepsSize: false, goesBehind: false, ...known }
    })
}

const middleOf = ({ minX, minY, maxX, maxY }: Bounds): Vec => ({ x: (minX + maxX) / 2, y: (minY + maxY) / 2 })

/** The form of a group: the parts that are all of it, or all that is in it. */
function formOf(puppet: Puppet, { group, parts }: Turning): { at: Vec; radius: number } {
  const boxes = parts.filter(isForm).flatMap((p) => restBounds(puppet, p.part) ?? [])
  const box = boxes[0] ?? sure(restBounds(puppet, group))
  return { at: middleOf(box), radius: Math.max(1, (box.maxX - box.minX) / 2) }
}

const NINE: readonly (readonly [number, number])[] = [-1, 0, 1]
  .flatMap((y) => [-1, 0, 1].map((x) => [x, y] as const))
  .filter(([x, y]) => x !== 0 || y !== 0)

/** Least size that foreshortening leaves. */
const THIN = 0.35

const round = (v: number): number => Math.round(v * 1000) / 1000

/**
 * What a part does when the form is turned: a spot at (x, y, z) of a ball of radius r goes to where the turned ball has it, and is
 * foreshortened by how much more or less it faces the viewer.
 */
function changesOf(puppet: Puppet, turning: Turning, one: TurnedPart, x: number, y: number): Change[] {
  const box = restBounds(puppet, one.part)
  const { at, radius } = formOf(puppet, turning)
  if (!box) return []
  const middle = middleOf(box)
  const [px, py] = [middle.x - at.x, middle.y - at.y]
  // On the surface, what lies further out lies further back.
  const out = Math.min(1, (px * px + py * py) / (radius * radius))
  const z = radius * (one.depth > 0 ? one.depth * Math.sqrt(Math.max(0.04, 1 - out)) : one.depth)
  const [yaw, pitch] = [toRadians(turning.yaw * x), toRadians(turning.pitch * y)]
  const turnedX = px * Math.cos(yaw) + z * Math.sin(yaw)
  const depth = -px * Math.sin(yaw) + z * Math.cos(yaw)
  const turnedY = py * Math.cos(pitch) - depth * Math.sin(pitch)
  const wide = one.keepsSize ? 1 : foreshortened(px / radius, yaw)
  const high = one.keepsSize ? 1 : foreshortened(py / radius, -pitch)
  const shownX = one.depth > 0 && one.depth <= 1 ? keptWithin(turnedX, ((box.maxX - box.minX) / 2) * wide, px, radius) : turnedX
  const shift = ownShift(puppet, one.part, shownX - px, turnedY - py)
  const changes: Change[] = []
  const put = (field: 'x' | 'y' | 'scaleX' | 'scaleY', by: number, none: number): void => {
    if (Math.abs(by - none) > 1e-3)
      changes.push({ kind: 'channel', muted: false, scale: 1, channel: `part/${one.part}/${field}`, by: round(by) })
  }
  put('x', shift.x, 0)
  put('y', shift.y, 0)
  put('scaleX', wide, 1)
  put('scaleY', high, 1)
  const far = one.goesBehind && stepsBehind(puppet, turning, one.part) > 0 && px * Math.sin(yaw) > 0.2 * radius * Math.abs(Math.sin(yaw))
  if (far)
    changes.push({
      kind: 'choice',
      muted: false,
      scale: 1,
      channel: `part/${one.part}/order`,
      to: -stepsBehind(puppet, turning, one.part),
    })
  return changes
}

/** By how many siblings a part goes back to be behind all of the form: before the lowest one that the form is, or is in. */
function stepsBehind(puppet: Puppet, { parts }: Turning, part: PartId): number {
  const siblings = partOf(puppet, sure(partOf(puppet, part).parent)).children
  const forms = parts.filter(isForm).map((p) => p.part)
  const lowest = siblings.findIndex((id) => forms.some((form) => isWithinPart(puppet, form, id)))
  return Math.max(0, siblings.indexOf(part) - Math.max(0, lowest))
}

/** A place that does not bring something of a half width over the rim of the form; what lay over it at rest may stay there. */
function keptWithin(turned: number, half: number, rest: number, radius: number): number {
  const most = Math.max(0.98 * radius - half, Math.abs(rest))
  return Math.min(most, Math.max(-most, turned))
}

/** How wide something on a ball looks after a turn, as a share of how it looked before. */
function foreshortened(share: number, turn: number): number {
  const side = Math.asin(Math.min(0.9, Math.max(-0.9, share)))
  return Math.min(1.15, Math.max(THIN, Math.cos(side + turn) / Math.cos(side)))
}

/** A shift of the canvas in the part's own space at rest. */
function ownShift(puppet: Puppet, part: PartId, x: number, y: number): Vec {
  const [a, b, c, d] = restMatrix(puppet, part)
  const det = a * d - b * c
  return Math.abs(det) < 1e-9 ? { x, y } : { x: (d * x - c * y) / det, y: (a * y - b * x) / det }
}

/** A part with the depth that is proposed for it, and why. */
export interface ProposedTurn {
  readonly control: Control
  readonly response: Response
}

/**
 * A pad and a response with all stops of a turn; of one to the sides alone, a slider with two. Up is up: the pad's upper stops
 * look upwards.
 */
export function proposedTurn(puppet: Puppet, turning: Turning, name: string, id: string): ProposedTurn {
  return turning.pitch === 0 ? sidewards(puppet, turning, name, id) : allRound(puppet, turning, name, id)
}

function sidewards(puppet: Puppet, turning: Turning, name: string, id: string): ProposedTurn {
  const control = { ...newControl(`${id}-slider`, name), symmetric: true, colour: 1 }
  const stops = [-1, 1].map((x, k): Stop => ({
    id: `${id}-s${k + 1}`,
    at: [x],
    changes: turning.parts.flatMap((p) => changesOf(puppet, turning, p, x, 0)),
  }))
  const input = { kind: 'channel' as const, channel: `control/${control.id}/value` }
  return { control, response: { ...newResponse(id, name, 'ruler', [input]), stops: stops.filter((s) => s.changes.length > 0) } }
}

function allRound(puppet: Puppet, turning: Turning, name: string, id: string): ProposedTurn {
  const control = { ...newControl(`${id}-pad`, name, 'pad'), symmetric: true, colour: 6 }
  const stops = NINE.map(([x, y], k): Stop => ({
    id: `${id}-s${k + 1}`,
    at: [x, y],
    changes: turning.parts.flatMap((p) => changesOf(puppet, turning, p, x, y)),
  }))
  const inputs = (['x', 'y'] as const).map((axis) => ({ kind: 'channel' as const, channel: `control/${control.id}/${axis}` }))
  return { control, response: { ...newResponse(id, name, 'pad', inputs), switchAt: 0.5, stops: stops.filter((s) => s.changes.length > 0) } }
}
