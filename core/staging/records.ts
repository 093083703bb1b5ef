/** What stands around a puppet: the shadow that it casts, the ground, the camera, and scenery. */
import { z } from 'zod'
import { PartId } from '../kernel/ids'
import { Colour, finite } from '../kernel/numbers'

/**
 * A flat copy of all that the puppet shows, in one colour, under it: laid on the ground, or shifted behind it. It follows every pose.
 */
export const Shadow = z.object({
  on: z.enum(['ground', 'behind']),
  /** Of the ground line, canvas px down. */
  ground: finite,
  /** Shift, canvas px. */
  x: finite,
  y: finite,
  /** Of a shadow on the ground: its length as a share of the figure's height, below 0 towards whoever looks. */
  length: z.number().min(-4).max(4),
  /** Of a shadow on the ground: how far it leans, degrees to the right of the figure's own direction. */
  skew: z.number().min(-80).max(80),
  colour: Colour,
  /** Width of its edge, canvas px. */
  softness: z.number().min(0).max(200),
  opacity: z.number().min(0).max(1),
})
export type Shadow = z.infer<typeof Shadow>

/** Most that a camera goes nearer, and farther away. */
export const ZOOMS = { nearest: 50, farthest: 0.02 }

/** What is seen of the canvas: a frame that moves, comes nearer and turns. Its rest position is written here; channels move it. */
export const Camera = z.object({
  /** Size of the frame where it is neither nearer nor farther, canvas px. */
  width: z.number().min(1).max(32768),
  height: z.number().min(1).max(32768),
  /** The middle of the frame. */
  x: finite,
  y: finite,
  /** 2 shows half as much, twice as large. */
  zoom: z.number().min(ZOOMS.farthest).max(ZOOMS.nearest),
  /** Of the camera: what is seen turns the other way. */
  angle: finite,
})
export type Camera = z.infer<typeof Camera>

/** A part that stands still whatever the puppet does: behind it, or in front of it. */
export const Scenery = z.object({ part: PartId, where: z.enum(['background', 'foreground']) })
export type Scenery = z.infer<typeof Scenery>

/** What a puppet stands on, is seen by, and is among. */
export const StageSet = z.object({
  /** The ground line, canvas px down; null for none. */
  ground: finite.nullable(),
  camera: Camera.nullable(),
  scenery: z.array(Scenery).max(500),
})
export type StageSet = z.infer<typeof StageSet>
