/**
 * Stages of evaluation. A rig is made of the tables of all stages, a frame of their buffers; a frame is evaluated by running the stages in
 * order. Each stage says what it needs of those before it, and knows nothing of those after it.
 */
import type { Puppet } from '../puppet/schema'

/** What is shown of what moves by itself. */
export interface Moment {
  /** Seconds since what plays began; null where nothing plays. */
  readonly time: number | null
  /** State of simulated motion; null where nothing is simulated. */
  readonly simulation: Simulation | null
}

/** Motion that follows from motion before: what of it the stages look at. */
export interface Simulation {
  /** [b] how fast each bone turns on the canvas, degrees a second */
  readonly speeds: Float64Array | null
  /** [2s] how far the ends of sprung bones are from where the pose has them, canvas px; null where springs are still */
  readonly springs: Float64Array | null
  /** What shows of strides; null or left out where nothing walks */
  readonly strides?: Float64Array | null
  /** Idle life: seconds that it has lived, and how much of it shows, 0 to 1 */
  readonly life?: { readonly time: number; readonly share: number } | null
}

/** Nothing plays and nothing moves by itself. */
export const STILL: Moment = { time: null, simulation: null }

/** What tables depend on besides whole fields. */
export interface StageKey {
  /** Fields of the puppet that it is made from: looked at only where an edit touched one of them. */
  readonly reads: readonly (keyof Puppet)[]
  /** It in few words; tables are made anew where it differs. */
  of(puppet: Puppet): string
}

/** Whatever every rig has. */
export interface RigBase {
  readonly puppet: Puppet
}

/**
 * A stage.
 *
 * Needs: tables of stages before it. Tables: its own. Uses: buffers of stages before it. Buffers: its own. Methods, so that a stage
 * which needs little stands in the list of those that are given everything.
 */
export interface Stage<Needs, Tables extends object, Uses, Buffers extends object> {
  readonly name: string
  /** Stages whose tables its own are made from: made anew where those are. */
  readonly after?: readonly string[]
  /** Fields of the puppet that its tables are made from: made anew where an edit touched one of them. */
  readonly reads?: readonly (keyof Puppet)[]
  /** Parts of further fields that its tables are made from. */
  readonly keys?: readonly StageKey[]
  /** Makes its tables, once for each structural change. */
  compile?(puppet: Puppet, rig: Needs): Tables
  /** Makes its buffers, once for each frame. */
  buffers?(rig: Needs & Tables, frame: Uses): Buffers
  /** Writes its buffers. Allocates nothing, and depends on nothing but its arguments. */
  run?(rig: Needs & Tables, frame: Uses & Buffers, pose: Float64Array, moment: Moment): void
}
