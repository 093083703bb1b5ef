/** Values that something plays at this moment: they show on the stage over the pose, and leave nothing behind. */
import { clampTo, channelOf } from '@marionette/core/document/channels'
import type { Rig } from '@marionette/core/rig/compile'
import { slotOfChannel } from '@marionette/core/rig/slots'

export type LiveValues = Readonly<Record<string, number>>

const NOTHING: LiveValues = {}
let playing: LiveValues = NOTHING
let cued: LiveValues = NOTHING
let live: LiveValues = NOTHING
const listeners = new Set<() => void>()

/** Calls back whenever other values play. */
export function onLive(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** Sets all that plays; null ends it. */
export function play(values: LiveValues | null): void {
  if (values === null && playing === NOTHING) return
  playing = values ?? NOTHING
  show()
}

/** Sets all that keys show, over what plays; null ends it. */
export function cue(values: LiveValues | null): void {
  if (values === null && cued === NOTHING) return
  cued = values ?? NOTHING
  show()
}

function show(): void {
  live = cued === NOTHING ? playing : playing === NOTHING ? cued : { ...playing, ...cued }
  for (const listener of listeners) listener()
}

/** Whether something plays over a channel: what is seen of it then says nothing of its own value. */
export const isPlayed = (address: string): boolean => Object.hasOwn(live, address)

/** Writes what plays over a pose. */
export function writeLive(rig: Rig, pose: Float64Array): void {
  for (const [address, value] of Object.entries(live)) {
    const channel = channelOf(rig.puppet, address)
    const slot = channel ? slotOfChannel(rig.slots, channel) : -1
    if (slot >= 0) pose[slot] = clampTo(channel!, value)
  }
}
