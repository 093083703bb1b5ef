/** Strides: legs that walk by themselves, and what of a body goes along with them. */
import { z } from 'zod'
import { BendSide } from '../constraints/records'
import { BoneId, StrideId, ViewId } from '../kernel/ids'
import { Name, Vec } from '../kernel/numbers'

/** A spot on the ring of a stride: 0 at its beginning, all of it at 1, where it begins anew. */
const Phase = z.number().min(0).max(1)

/** A leg, or a wing or fin that is moved like one. */
export const StrideLeg = z.object({
  name: Name,
  /** From the hip to the ankle, or to the tip where it has no foot; one hangs from the other. */
  bones: z.array(BoneId).min(1).max(8),
  /** What stands on the ground, from the ankle to the ball or the tip; null where it stands on the tip of its last bone. */
  foot: BoneId.nullable(),
  /** What bends at the ball. */
  toe: BoneId.nullable(),
  /** The way in which the knee bends: 1 counter-clockwise on screen; 0 as it is drawn, else as such legs do. */
  knee: BendSide,
  /** When it touches down. */
  at: Phase,
  /** Whether it stands on the ground; wings and fins beat the air. */
  touches: z.boolean(),
  /** How much of the stride it does, and how much its toes bend. */
  strength: z.number().min(0).max(3),
  toeBend: z.number().min(0).max(2),
})
export type StrideLeg = z.infer<typeof StrideLeg>

/** Bones that swing in time with the legs: an arm, a tail, a body that slithers. */
export const StrideSwing = z.object({
  name: Name,
  /** The root first. */
  bones: z.array(BoneId).min(1).max(64),
  /** How far the first turns to either side, and the share of that for each further one. */
  turn: z.number().min(-180).max(180),
  follow: z.number().min(-2).max(2),
  /** How far the further ones bend while it is in front, degrees. */
  bend: z.number().min(-180).max(180),
  /** When it is in front. */
  at: Phase,
  /** By how many swings the tip is behind the root: a wave goes along the chain. */
  lag: z.number().min(-8).max(8),
  /** Swings in a stride. */
  times: z.number().int().min(1).max(8),
})
export type StrideSwing = z.infer<typeof StrideSwing>

/** What of a stride is set in numbers. Lengths are px, turns degrees. */
export const StrideNature = z.object({
  /** From one footfall to the next of the same foot. */
  length: z.number().min(0).max(5000),
  /** How high feet are lifted. */
  lift: z.number().min(0).max(2000),
  /** Share of the stride for which a foot stands. */
  duty: z.number().min(0.05).max(0.95),
  /** Strides a second. */
  tempo: z.number().min(0.02).max(10),
  /** How far the body rises while it is over its feet; below 0 it sinks there, and rises between them, as in running. */
  bob: z.number().min(-1000).max(1000),
  /** How far it goes over the foot that stands, seen from the front. */
  sway: z.number().min(-1000).max(1000),
  /** How far hips turn with the legs, and the chest against them. */
  hipTurn: z.number().min(-60).max(60),
  chestTurn: z.number().min(-60).max(60),
  /** How far it leans forwards. */
  lean: z.number().min(-60).max(60),
  /** Share of what swings in time. */
  swing: z.number().min(0).max(3),
  /** How far toes are up as the heel comes down; the heel comes up by twice that. */
  roll: z.number().min(0).max(60),
  /** How level the head stays. */
  level: z.number().min(0).max(1),
})
export type StrideNature = z.infer<typeof StrideNature>

/** Legs that walk. */
export const Stride = z.object({
  id: StrideId,
  name: Name,
  legs: z.array(StrideLeg).max(12),
  swings: z.array(StrideSwing).max(24),
  /** What carries the legs, what counter-turns, and what stays level. */
  hips: BoneId.nullable(),
  chest: BoneId.nullable(),
  head: BoneId.nullable(),
  ...StrideNature.shape,
  /** Which way it goes in each view: 1 to the right of the picture, -1 to the left, 0 towards whoever looks; between them aslant. */
  ways: z.record(ViewId, z.number().min(-1).max(1)),
  /** Whether it goes along the ground; else it walks on the spot. */
  travels: z.boolean(),
  /** How it goes up and down under the feet, canvas px: in order of x, level beyond both ends; even where it is empty. */
  ground: z.array(Vec).max(500),
  /** What the channels rest at: its pace, where 1 is what is set here and 0 stands, and how much of it shows. */
  speed: z.number().min(-3).max(3),
  amount: z.number().min(0).max(1),
})
export type Stride = z.infer<typeof Stride>
