/** What commands on clips share: keys put into tracks in order, and taken out of them. They change drafts in place. */
import { isSameTime } from './lookup'
import type { ClipLayer, Key, KeyHandles, Track } from './records'
import { nth } from '../kernel/sure'

/** Puts a key into a layer; one at its time is replaced. */
export function putKey(layer: ClipLayer, channel: string, key: Key): void {
  const track = layer.tracks[channel]
  if (!track) {
    layer.tracks[channel] = { keys: [key], before: 'hold', after: 'hold' }
    return
  }
  const kept = track.keys.filter((other) => !isSameTime(other.time, key.time))
  const at = kept.findIndex((other) => other.time > key.time)
  kept.splice(at < 0 ? kept.length : at, 0, key)
  track.keys = kept
}

/** Takes keys out of a layer; a track without any goes. */
export function dropKeys(layer: ClipLayer, channel: string, isDropped: (key: Key) => boolean): void {
  const track = layer.tracks[channel]
  if (!track) return
  track.keys = track.keys.filter((key) => !isDropped(key))
  if (track.keys.length === 0) delete layer.tracks[channel]
}

/** Changes keys of a layer, and puts them in order; where two come to one time the changed one stays. */
export function changeKeys(layer: ClipLayer, channel: string, isChanged: (key: Key) => boolean, change: (key: Key) => Key): void {
  const track = layer.tracks[channel]
  if (!track) return
  const changed = track.keys.filter(isChanged).map(change)
  const still = track.keys.filter((key) => !isChanged(key) && !changed.some((other) => isSameTime(other.time, key.time)))
  track.keys = inOrder([...still, ...changed])
}

/** Keys in order of time, of those at one time the last. */
function inOrder(keys: readonly Key[]): Key[] {
  const sorted = [...keys].sort((a, b) => a.time - b.time)
  return sorted.filter((key, k) => k === sorted.length - 1 || !isSameTime(key.time, nth(sorted, k + 1).time))
}

/** A fresh key. */
export const newKey = (time: number, value: number, pose: string | null = null, way: Key['way'] = 'smooth'): Key => ({
  ...{ time, value, way, handles: null, pose },
})

/** Whether a track has any key of a pose. */
export const hasPose = ({ keys }: Track, pose: string): boolean => keys.some((key) => key.pose === pose)

/** Handles stretched in time and in value. */
export const scaledHandles = ({ arrive, leave, aligned }: KeyHandles, t: number, v: number): KeyHandles => ({
  arrive: [arrive[0] * t, arrive[1] * v],
  leave: [leave[0] * t, leave[1] * v],
  aligned,
})
