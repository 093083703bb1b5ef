/** Turning round: the views between two are shown one after the other, at the moment when feet pass each other. */
import type { Clip } from '../clips/records'
import { compile } from '../puppet/compile'
import type { Puppet } from '../puppet/schema'
import { LEG_SHOWN, WALK_SHOWN } from '../strides/course'
import { inView, shownView, viewValue } from '../views/views'
import { poseInClip } from './clips'
import { clipSimulation } from './motionRun'

/** Seconds for which a view in between is shown. */
const BETWEEN = 1 / 12
/** Looks for the moment this far ahead, seconds. */
const AHEAD = 1.5

/** When feet are nearest to each other from a time on: at once where nothing walks then. */
export function passingTime(puppet: Puppet, clip: Clip, from: number): number {
  const rig = compile(inView(puppet, shownView(puppet, poseInClip(puppet, clip, from))))
  const apartAt = (time: number): number => {
    const shown = clipSimulation(rig, clip, time)?.strides
    if (!shown) return 0
    return rig.strides.list.reduce((sum, { shownAt, legs }) => {
      const ahead = legs.map((_, k) => shown[shownAt + WALK_SHOWN + LEG_SHOWN * k] ?? 0)
      return sum + (ahead.length > 1 ? Math.max(...ahead) - Math.min(...ahead) : 0)
    }, 0)
  }
  let best = from
  for (let f = Math.ceil(from * clip.rate); f / clip.rate <= Math.min(clip.length, from + AHEAD); f++) {
    const time = f / clip.rate
    const isOver = apartAt(time) > apartAt(best) && best > from
    if (isOver) break
    if (apartAt(time) < apartAt(best) - 1e-6) best = time
  }
  return best
}

/** Keys of the view channel by which a puppet turns from the view that it shows to another: time and value. */
export function turningKeys(puppet: Puppet, clip: Clip, from: number, to: string): { time: number; value: number }[] {
  const start = passingTime(puppet, clip, from)
  const [first, last] = [viewValue(puppet, shownView(puppet, poseInClip(puppet, clip, start))), viewValue(puppet, to)]
  const step = Math.sign(last - first)
  const hold = Math.max(BETWEEN, 1 / clip.rate)
  return Array.from({ length: Math.abs(last - first) }, (_, k) => ({ time: start + k * hold, value: first + step * (k + 1) }))
}
