/** How much room sounds and mouth shapes take on the timeline. */
import type { Clip, ClipLayer, SoundPiece, Spoken } from '@marionette/core/clips/records'

/** Lanes that sounds stand in, so that none lies on another: the lane of each, the first ones first. */
export function lanesOf(sounds: readonly SoundPiece[]): number[] {
  const lanes: SoundPiece[][] = []
  const meet = (a: SoundPiece, b: SoundPiece): boolean => a.at < b.at + b.length - 1e-6 && b.at < a.at + a.length - 1e-6
  return sounds.map((sound) => {
    const free = lanes.findIndex((lane) => lane.every((other) => !meet(sound, other)))
    if (free >= 0) return (lanes[free]?.push(sound), free)
    return lanes.push([sound]) - 1
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

export const mouthRowHeight = (clip: Pick<Clip, 'layers'>): number => (speakingLayers(clip).length > 0 ? MOUTH_ROW : 0)
