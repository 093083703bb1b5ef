/** Moments of a clip as frames: what is keyed, and what moves by itself. The same in the browser, on the server and in the shell. */
import type { Clip } from '../clips/records'
import { compile } from '../puppet/compile'
import { evaluate, evaluateBones, makeFrame, writePose } from '../puppet/evaluate'
import type { Frame } from '../puppet/frame'
import type { Rig } from '../puppet/rig'
import type { Puppet } from '../puppet/schema'
import { applySprings } from '../springs/motion'
import { inView, shownView } from '../views/views'
import { poseInClip } from './clips'
import { clipSimulation } from './motionRun'
import { motionFrame } from './selfMotion'

export interface ClipMoment {
  /** Values that are shown, by address. */
  readonly pose: Readonly<Record<string, number>>
  /** A frame of its own. */
  readonly frame: Frame
}

/** Poses moments of a clip: the rig of the view that shows then, the pose, and what moves by itself. */
function posedMoments(puppet: Puppet, clip: Clip) {
  const rigs = new Map<string, Rig>()
  return (time: number) => {
    const values = poseInClip(puppet, clip, time)
    const view = shownView(puppet, values)
    const rig = rigs.get(view) ?? compile(inView(puppet, view))
    rigs.set(view, rig)
    const pose = writePose(rig, values, new Float64Array(rig.restPose.length))
    return { rig, values, pose, moment: { time, simulation: clipSimulation(rig, clip, time) } }
  }
}

/** Shows moments of a clip in any order, seconds from its beginning; what is compiled and simulated is kept from one to the next. */
export function momentsOfClip(puppet: Puppet, clip: Clip): (time: number) => ClipMoment {
  const posedAt = posedMoments(puppet, clip)
  return (time) => {
    const { rig, values, pose, moment } = posedAt(time)
    return { pose: values, frame: evaluate(rig, pose, makeFrame(rig), moment) }
  }
}

/** Bones at moments of a clip, led by their springs, without all that is drawn. The frame is overwritten by whoever simulates next. */
export function bonesInClip(puppet: Puppet, clip: Clip): (time: number) => Frame {
  const posedAt = posedMoments(puppet, clip)
  return (time) => {
    const { rig, pose, moment } = posedAt(time)
    const frame = motionFrame(rig)
    evaluateBones(rig, pose, frame, moment)
    if (moment.simulation?.springs) applySprings(rig, frame, frame.values, moment.simulation.springs)
    return frame
  }
}
