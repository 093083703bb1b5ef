/** Finding clips and what is in them. */
import type { Puppet } from '../puppet/schema'
import { EditError } from '../kernel/errors'
import { nth } from '../kernel/sure'
import { SAME_TIME, type Clip, type ClipLayer, type HungPose, type Key, type Track } from './records'

/** The clip with an id. Throws EditError where there is none. */
export function clipOf({ clips }: Pick<Puppet, 'clips'>, id: string): Clip {
  const found = clips.find((clip) => clip.id === id)
  if (!found) throw new EditError(`There is no clip "${id}" in this puppet.`)
  return found
}

/** The layer that all others lie on: keys go there where no other is chosen. */
export const baseOf = (clip: Clip): ClipLayer => nth(clip.layers, 0)

/** A layer of a clip. Throws EditError where there is none. */
export function layerOf(clip: Clip, id: string): ClipLayer {
  const found = clip.layers.find((layer) => layer.id === id)
  if (!found) throw new EditError(`The clip ${clip.name} has no layer "${id}".`)
  return found
}

/** A pose on the line of a clip. Throws EditError where there is none. */
export function hungPoseOf(clip: Clip, id: string): HungPose {
  const found = clip.poses.find((pose) => pose.id === id)
  if (!found) throw new EditError(`The clip ${clip.name} has no pose "${id}".`)
  return found
}

/** Whether two times are one. */
export const isSameTime = (a: number, b: number): boolean => Math.abs(a - b) < SAME_TIME

/** The key of a track at a time. */
export const keyAt = (track: Track | undefined, time: number): Key | undefined => track?.keys.find((key) => isSameTime(key.time, time))

/** All keys of a clip with where they stand. */
export function* keysOf(clip: Clip): Generator<{ layer: ClipLayer; channel: string; track: Track; key: Key }> {
  for (const layer of clip.layers)
    for (const [channel, track] of Object.entries(layer.tracks)) for (const key of track.keys) yield { layer, channel, track, key }
}

/** Keys that belong to a pose on the line. */
export const keysOfPose = (clip: Clip, pose: string): { layer: ClipLayer; channel: string; key: Key }[] =>
  [...keysOf(clip)].filter(({ key }) => key.pose === pose)
