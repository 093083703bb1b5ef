/** Moments of a clip, as `--clip NAME --time SECONDS` asks for them. */
import type { Frame } from '@marionette/core/puppet/frame'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { namedClip } from '@marionette/core/playing/clips'
import { momentsOfClip } from '@marionette/core/playing/moments'
import type { Puppet } from '@marionette/core/puppet/schema'
import { Failure } from './failure'
import { readPose } from './files'

/** What is shown of a puppet: a pose, or moments of a clip in any order. */
export interface Shown {
  readonly pose?: string | undefined
  readonly clip?: string | undefined
  readonly times: readonly string[]
}

export interface ShownMoment {
  /** Seconds into the clip; null for a pose. */
  readonly time: number | null
  /** Values that are shown, by address. */
  readonly pose: Readonly<Record<string, number>>
  readonly frame: Frame
}

/** Checks what can be checked before any input is read. */
export function checkShown({ pose, clip, times }: Shown): void {
  if (clip === undefined && times.length > 0) throw new Failure('--time says a moment of a clip; name it with --clip')
  if (clip !== undefined && pose !== undefined) throw new Failure('--pose and --clip cannot be shown at once')
  times.forEach(readTime)
}

function readTime(text: string): number {
  const time = Number(text)
  if (text.trim() === '' || !Number.isFinite(time) || time < 0) throw new Failure(`--time ${text}: a time is seconds from 0 on`)
  return time
}

/** Frames of what is asked for: one of a pose, or one for each time; a clip without a time shows its beginning. */
export function momentsOf(puppet: Puppet, { pose, clip, times }: Shown): ShownMoment[] {
  if (clip === undefined) {
    const shown = pose === undefined ? puppet.pose : readPose(pose)(puppet)
    return [{ time: null, pose: shown, frame: posePuppet(puppet, shown) }]
  }
  const acted = namedClip(puppet, clip)
  const moments = momentsOfClip(puppet, acted)
  return (times.length === 0 ? ['0'] : times).map((text) => {
    const time = readTime(text)
    return { time, ...moments(time) }
  })
}
