/** How much room sounds and mouth shapes take on the timeline. */
import type { Clip, ClipLayer, Spoken } from '@marionette/core/clips/records'

/** A stretch of time, seconds. */
interface Stretch {
  readonly at: number
  readonly length: number
}

/** Lanes that stretches stand in, so that none lies on another: the lane of each, the first ones first. */
export function lanesOf(stretches: readonly Stretch[]): number[] {
  const lanes: Stretch[][] = []
  const meet = (a: Stretch, b: Stretch): boolean => a.at < b.at + b.length - 1e-6 && b.at < a.at + a.length - 1e-6
  return stretches.map((stretch) => {
    const free = lanes.findIndex((lane) => lane.every((other) => !meet(stretch, other)))
    if (free >= 0) return (lanes[free]?.push(stretch), free)
    return lanes.push([stretch]) - 1
  })
}

export const SOUND_ROW = 30
/** How many lanes show at once; more are scrolled to. */
const MOST_LANES = 2

export const soundRowsHeight = ({ sounds }: Pick<Clip, 'sounds'>): number =>
  sounds.length === 0 ? 0 : SOUND_ROW * Math.min(MOST_LANES, 1 + Math.max(...lanesOf(sounds)))

export const MOUTH_ROW = 38

/** A layer that says something. */
export type Speaking = ClipLayer & { readonly spoken: Spoken }
export const speakingLayers = ({ layers }: Pick<Clip, 'layers'>): Speaking[] =>
  layers.filter((layer): layer is Speaking => layer.spoken !== null && !layer.muted)

/** Lanes of lines that are said at one time. */
export const linesOf = (speaking: readonly Speaking[]): number[] =>
  lanesOf(speaking.map(({ spoken }) => ({ at: spoken.start, length: spoken.duration })))

export const mouthRowHeight = (clip: Pick<Clip, 'layers'>): number =>
  MOUTH_ROW * Math.min(MOST_LANES, Math.max(0, ...linesOf(speakingLayers(clip)).map((lane) => lane + 1)))
