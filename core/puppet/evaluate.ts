/**
 * evaluate(rig, pose) -> Frame: where everything is in a pose.
 *
 * Placement follows one formula, x = S(K(W D(p))): D are deformers before bones, W is the product of home and posed
 * offset from the root down, K the motion of the bone or bones that the part is bound to, S deformers after bones.
 * Allocates nothing and depends on nothing but its arguments.
 */
import { STILL, type Moment } from '../kernel/stage'
import { inView, shownView } from '../views/views'
import { compile } from './compile'
import type { Frame } from './frame'
import type { Rig } from './rig'
import type { Puppet } from './schema'
import { poseBones } from '../constraints/stage'
import { answeringStage } from '../responses/stage'
import { springsStage } from '../springs/stage'
import { STAGES } from './stages'
import { clampTo, type Channel } from '../kernel/channel'
import { slotOfChannel } from '../kernel/slots'
import { channelOf } from './channels'

const RUNNING = STAGES.filter((stage) => stage.run)

/** Evaluates a pose, at a moment of what plays and moves by itself, into a frame made for the same rig. */
export function evaluate(rig: Rig, pose: Float64Array, frame: Frame, moment: Moment = STILL): Frame {
  for (let s = 0; s < RUNNING.length; s++) RUNNING[s]!.run!(rig, frame, pose, moment)
  frame.revision++
  return frame
}

const UP_TO_SPRINGS = RUNNING.slice(
  0,
  RUNNING.findIndex(({ name }) => name === springsStage.name),
)

/** Evaluates a pose as far as bones go, without what springs make of it: what their simulation starts each step from. */
export function evaluateBones(rig: Rig, pose: Float64Array, frame: Frame, moment: Moment): void {
  for (let s = 0; s < UP_TO_SPRINGS.length; s++) {
    const stage = UP_TO_SPRINGS[s]!
    // Most responses shape and colour what bones have moved; where none moves a bone, bones are posed by the pose alone.
    if (stage.name === answeringStage.name && !rig.responses.movesBones) poseBones(rig, frame.values, frame)
    else stage.run!(rig, frame, pose, moment)
  }
}

/** A puppet in a pose, in the view that the pose shows; makes a rig and a frame. */
export const posePuppet = (puppet: Puppet, pose: Readonly<Record<string, number>> = puppet.pose, moment: Moment = STILL): Frame =>
  poseRig(compile(inView(puppet, shownView(puppet, pose))), pose, moment)

/** Evaluates a pose given by addresses; makes a new frame. */
export const poseRig = (rig: Rig, pose: Readonly<Record<string, number>> = rig.puppet.pose, moment: Moment = STILL): Frame =>
  evaluate(rig, writePose(rig, pose, new Float64Array(rig.restPose.length)), makeFrame(rig), moment)

/** Makes the buffers for a rig's frames. */
export function makeFrame(rig: Rig): Frame {
  const frame = { rig, revision: 0 }
  for (const stage of STAGES) if (stage.buffers) Object.assign(frame, stage.buffers(rig, frame as Frame))
  return frame as Frame
}

/** Forgets which alternates were chosen last: what is shown next depends on nothing that was shown before. */
export const forgetChoices = (frame: Frame): void => void frame.memory.fill(-1)

/** A channel with its place in the poses of a rig; null for what moves nothing, like the view: a rig is made for one. */
type Place = { readonly channel: Channel; readonly slot: number } | null

const places = new WeakMap<Rig, Map<string, Place>>()

function placeOf(rig: Rig, known: Map<string, Place>, address: string): Place {
  const last = known.get(address)
  if (last !== undefined) return last
  const channel = channelOf(rig.puppet, address)
  const slot = channel ? slotOfChannel(rig.slots, channel) : -1
  const place = channel && slot >= 0 ? { channel, slot } : null
  known.set(address, place)
  return place
}

/** Writes values by addresses over a pose; unknown addresses are passed over. */
export function writeValues(rig: Rig, values: Readonly<Record<string, number>>, out: Float64Array): Float64Array {
  const known = places.get(rig) ?? new Map<string, Place>()
  places.set(rig, known)
  for (const address of Object.keys(values)) {
    const place = placeOf(rig, known, address)
    if (place) out[place.slot] = clampTo(place.channel, values[address]!)
  }
  return out
}

/** Writes a pose by addresses into an array that `evaluate` takes; what it does not say is at rest. */
export function writePose(rig: Rig, pose: Readonly<Record<string, number>>, out: Float64Array): Float64Array {
  out.set(rig.restPose)
  return writeValues(rig, pose, out)
}
