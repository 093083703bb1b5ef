/** Moments of a clip as frames: what is keyed, and what moves by itself. The same in the browser, on the server and in the shell. */
import type { Clip } from '../clips/records'
import { compile } from '../puppet/compile'
import { evaluate, makeFrame, writePose } from '../puppet/evaluate'
import type { Frame } from '../puppet/frame'
import type { Rig } from '../puppet/rig'
import type { Puppet } from '../puppet/schema'
import { inView, shownView } from '../views/views'
import { poseInClip } from './clips'
import { clipSimulation } from './springRun'

export interface ClipMoment {
  /** Values that are shown, by address. */
  readonly pose: Readonly<Record<string, number>>
  /** A frame of its own. */
  readonly frame: Frame
}

/** Shows moments of a clip in any order, seconds from its beginning; what is compiled and simulated is kept from one to the next. */
export function momentsOfClip(puppet: Puppet, clip: Clip): (time: number) => ClipMoment {
  const rigs = new Map<string, Rig>()
  return (time) => {
    const pose = poseInClip(puppet, clip, time)
    const view = shownView(puppet, pose)
    const rig = rigs.get(view) ?? compile(inView(puppet, view))
    rigs.set(view, rig)
    const moment = { time, simulation: clipSimulation(rig, clip, time) }
    return { pose, frame: evaluate(rig, writePose(rig, pose, new Float64Array(rig.restPose.length)), makeFrame(rig), moment) }
  }
}
