/** Targets and constraints: what tells bones where to be, besides their own angles. */
import { z } from 'zod'
import { finite, Name, positiveOrZero, Vec } from '../kernel/numbers'
import { BoneId, ConstraintId, TargetId, ViewId } from '../kernel/ids'

/** A spot of the canvas that constraints look for. It goes along with a bone where it has a parent. */
export const Target = z.object({
  id: TargetId,
  name: Name,
  /** At rest, on the canvas. */
  at: Vec,
  parent: BoneId.nullable(),
  /** Where it lies in the views that are not shown; as in the shown one where a view is not listed. */
  inViews: z.record(ViewId, z.object({ at: Vec })),
})
export type Target = z.infer<typeof Target>

const common = {
  id: ConstraintId,
  name: Name,
  /** How far it acts at rest: 0 leaves the bones their own turn, 1 gives them to it. A channel poses it. */
  amount: z.number().min(0).max(1),
}

/** Bones of a limb or a path at most. */
export const MOST_CHAINED = 64

/** Which way a limb bends: -1 clockwise on screen, 1 counter-clockwise, 0 as its own pose has it. */
export const BendSide = z.union([z.literal(-1), z.literal(0), z.literal(1)])
export type BendSide = z.infer<typeof BendSide>

/** What moves bones after they were posed: reaching, aiming, copying. */
export const Constraint = z.discriminatedUnion('kind', [
  /** The end of the last bone reaches for a target. `bones` hang one from the other, the root of the limb first. */
  z.object({
    kind: z.literal('reach'),
    ...common,
    bones: z.array(BoneId).min(1).max(MOST_CHAINED),
    target: TargetId,
    side: BendSide,
    /** Share of the limb's length over which it eases into full extension. */
    soft: z.number().min(0).max(0.5),
    /** How many times its length it may be drawn out; 1 is not at all. */
    stretch: z.number().min(1).max(10),
    /** A bone at the end of the limb that keeps its own direction on the canvas, like a foot on the ground. */
    level: BoneId.nullable(),
    /** The limb bends towards this target, whatever its side says. */
    pole: TargetId.nullable(),
  }),
  /** A bone turns by a share of what another one turns. */
  z.object({ kind: z.literal('copy'), ...common, bone: BoneId, from: BoneId, ratio: finite }),
  /** A bone points at a target. */
  z.object({ kind: z.literal('aim'), ...common, bone: BoneId, target: TargetId }),
  /** A bone's start keeps between two distances from a target. */
  z
    .object({ kind: z.literal('distance'), ...common, bone: BoneId, target: TargetId, least: positiveOrZero, most: positiveOrZero })
    .refine((c) => c.least <= c.most, 'the least distance is above the greatest'),
  /** Bones that hang one from the other lie along a smooth curve from the first one's start through targets. */
  z.object({
    kind: z.literal('path'),
    ...common,
    bones: z.array(BoneId).min(1).max(MOST_CHAINED),
    targets: z.array(TargetId).min(1).max(32),
  }),
])
export type Constraint = z.infer<typeof Constraint>

/** The constraints of one kind. */
export type ConstraintOf<K extends Constraint['kind']> = Extract<Constraint, { kind: K }>

/** Bones whose turn, length or place a constraint sets. */
export function movedBones(c: Constraint): BoneId[] {
  if (c.kind === 'reach') return c.level === null ? c.bones : [...c.bones, c.level]
  return c.kind === 'path' ? c.bones : [c.bone]
}

/** Targets that a constraint looks for. */
export function targetsOf(c: Constraint): TargetId[] {
  if (c.kind === 'reach') return c.pole === null ? [c.target] : [c.target, c.pole]
  if (c.kind === 'path') return c.targets
  return c.kind === 'copy' ? [] : [c.target]
}
