/** Onion skin: moments before and after the one that is looked at, drawn in full and tinted. */
import { keysOf, isSameTime } from '@marionette/core/clips/lookup'
import { writeClip } from '@marionette/core/clips/layers'
import type { Clip } from '@marionette/core/clips/records'
import { clipForRig } from '@marionette/core/playing/clips'
import { clipSimulation } from '@marionette/core/playing/motionRun'
import { nth } from '@marionette/core/kernel/sure'
import type { Ghost, Ghosts } from '../../stage/ghosts'
import { currentTheme } from '../../stage/theme'
import { clipNow, useActing, type Onion } from './acting'

/** Times of the moments before and after a time, the farthest first; those after come after those before. */
export function onionTimes(
  clip: Clip,
  time: number,
  { before, after, by }: Pick<Onion, 'before' | 'after' | 'by'>,
): { before: number[]; after: number[] } {
  if (by === 'frames') {
    const at = (n: number): number => time + n / clip.rate
    const isIn = (t: number): boolean => t >= -1e-9 && t <= clip.length + 1e-9
    return {
      before: Array.from({ length: before }, (_, k) => at(k - before)).filter(isIn),
      after: Array.from({ length: after }, (_, k) => at(after - k)).filter(isIn),
    }
  }
  // Whole poses where there are some: single keys between them, as late hands have, show next to nothing new.
  const marks = clip.poses.length > 0 ? clip.poses.map((pose) => pose.time) : [...keysOf(clip)].map(({ key }) => key.time)
  const times = [...new Set(marks)].sort((a, b) => a - b)
  return {
    before: before === 0 ? [] : times.filter((t) => t < time && !isSameTime(t, time)).slice(-before),
    after: times
      .filter((t) => t > time && !isSameTime(t, time))
      .slice(0, after)
      .reverse(),
  }
}

/** The ghosts of the open clip: none while it plays. */
export const onionGhosts: Ghosts = (editor, model) => {
  const { onion, isPlaying, time } = useActing.of(editor).getState()
  const clip = clipNow(editor)
  if (!clip || !onion.isOn || isPlaying) return []
  const ready = clipForRig(model.rig, clip)
  const colours = currentTheme(editor)
  const times = onionTimes(clip, time, onion)
  const ghosts = (list: readonly number[], colour: string): Ghost[] =>
    list.map((at, k) => ({
      colour,
      cover: 0.55,
      // Those that are further away are fainter.
      alpha: onion.strength * ((k + 1) / list.length),
      write: (pose) => {
        writeClip(ready, at, pose)
        return at
      },
      simulated: (rig) => clipSimulation(rig, clip, at),
    }))
  return [...ghosts(times.before, nth(colours.chains, 4)), ...ghosts(times.after, colours.verdigris)]
}
