/**
 * Proposals for joints that bend: at each limit the outer side of the bend is drawn out and the crease is pulled in, for drawings
 * that bend there or meet there. The rigger accepts or reshapes them.
 */
import type { BoneId } from '../kernel/ids'
import type { Affine, Vec } from '../kernel/numbers'
import type { Change, ChangeOf, Response } from './records'
import type { Drawing } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { drawingOf, drawnParts, restMatrix } from '../parts/tree'
import { apply, invert } from '../maths/geometry/affine'
import { newResponse } from './new'
import { partsOfBone } from '../binds/tree'

/** Reach of a proposal around the joint, as a share of the shorter bone. */
const REACH = 0.75
/** How far points go at a bend of 90 degrees, as a share of their distance from the bone. */
const SWELL = 0.14
const CREASE = 0.1

/** Angle at which a bone without a limit is recorded, degrees. */
const USUAL = 90

/**
 * A response that answers to the angle of a bone at both of its limits.
 *
 * @returns null where no drawing lies at the joint
 */
export function proposedCorrective(puppet: Puppet, bone: BoneId, id: string): Response | null {
  const own = puppet.bones[bone]!
  const above = own.parent === null ? null : puppet.bones[own.parent]!
  if (!above) return null
  const ends = [own.limits.min ?? -USUAL, own.limits.max ?? USUAL].filter((angle) => Math.abs(angle) >= 15)
  const parts = [...new Set([...partsOfBone(puppet, bone), ...partsOfBone(puppet, above.id)].flatMap((p) => drawnParts(puppet, p.id)))]
  const stops = ends.map((angle, k) => ({
    id: `${id}-s${k + 1}`,
    at: [angle],
    changes: parts.flatMap((part): Change[] => {
      const drawing = drawingOf(puppet, part)
      const change = drawing && puppet.drawings[drawing.id] ? aroundJoint(puppet, part.id, drawing, bone, angle) : null
      return change ? [change] : []
    }),
  }))
  if (stops.every((s) => s.changes.length === 0)) return null
  const response = newResponse(id, `${own.name} corrected`, 'ruler', [{ kind: 'channel', channel: `bone/${bone}/angle` }])
  return { ...response, stops: stops.filter((s) => s.changes.length > 0) }
}

/** Moves of the points of a drawing around a joint. */
function aroundJoint(puppet: Puppet, part: string, drawing: Drawing, bone: BoneId, angle: number): ChangeOf<'points'> | null {
  const { start, end, parent } = puppet.bones[bone]!
  const above = puppet.bones[parent!]!
  const length = Math.min(
    Math.hypot(end.x - start.x, end.y - start.y),
    Math.hypot(above.end.x - above.start.x, above.end.y - above.start.y),
  )
  const map = restMatrix(puppet, part)
  const back = invert(map)
  if (!back || length < 1) return null
  const whole = Math.max(1e-6, Math.hypot(end.x - above.start.x, end.y - above.start.y))
  const along: Vec = { x: (end.x - above.start.x) / whole, y: (end.y - above.start.y) / whole }
  // Counter-clockwise on screen the bend closes on the left of the way along the bones.
  const closing: Vec = angle > 0 ? { x: along.y, y: -along.x } : { x: -along.y, y: along.x }
  const strength = Math.min(1, Math.abs(angle) / 90)
  const out: { id: number; by: number[] }[] = []
  for (const { ids, anchors } of drawing.shapes.flatMap((s) => s.paths))
    ids.forEach((id, k) => {
      const at = apply(map, { x: anchors[2 * k]!, y: anchors[2 * k + 1]! })
      const [x, y] = [at.x - start.x, at.y - start.y]
      const far = Math.abs(x * along.x + y * along.y) / (REACH * length)
      if (far >= 1) return
      const side = x * closing.x + y * closing.y
      const fade = (1 - far * far) ** 2
      // On both sides away from where the bend closes: the back of the joint swells, and the crease goes in.
      const by = strength * fade * (side > 0 ? CREASE : SWELL) * Math.abs(side)
      const own = direction(back, { x: -closing.x * by, y: -closing.y * by })
      if (Math.hypot(own.x, own.y) > 0.05) out.push({ id, by: [own.x, own.y, 0, 0, 0, 0].map((v) => Math.round(v * 1000) / 1000) })
    })
  if (out.length === 0) return null
  return { kind: 'points', muted: false, scale: 1, part, drawing: drawing.id, ids: out.map((o) => o.id), by: out.flatMap((o) => o.by) }
}

/** A step under a map. */
function direction(map: Affine, { x, y }: Vec): Vec {
  return { x: map[0] * x + map[2] * y, y: map[1] * x + map[3] * y }
}
