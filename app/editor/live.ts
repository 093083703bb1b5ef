/** Values that something plays at this moment: they show on the stage over the pose, and leave nothing behind. */
import { writeValues } from '@marionette/core/puppet/evaluate'
import type { Simulation } from '@marionette/core/kernel/stage'
import type { Rig } from '@marionette/core/puppet/rig'
import { editorState, type Editor } from './editor'

/** What moves by itself at the moment that is shown, for a rig; null where nothing does. */
export type Simulated = (rig: Rig) => Simulation | null

export type LiveValues = Readonly<Record<string, number>>

const NOTHING: LiveValues = {}
interface Own {
  playing: LiveValues
  cued: LiveValues
  time: number | null
  simulated: Simulated | null
  live: LiveValues
  listeners: Set<() => void>
}

const stateOf = editorState((): Own => ({
  playing: NOTHING,
  cued: NOTHING,
  time: null,
  simulated: null,
  live: NOTHING,
  listeners: new Set<() => void>(),
}))

/** Calls back whenever other values play. */
export function onLive(editor: Editor, listener: () => void): () => void {
  const own = stateOf(editor)
  own.listeners.add(listener)
  return () => own.listeners.delete(listener)
}

/**
 * Sets all that plays; null ends it.
 *
 * @param at seconds since it began, for what follows from the time alone
 * @param simulated what moves by itself meanwhile
 */
export function play(editor: Editor, values: LiveValues | null, at: number | null = null, simulated: Simulated | null = null): void {
  const own = stateOf(editor)
  if (values === null && own.playing === NOTHING && own.time === null) return
  own.playing = values ?? NOTHING
  own.time = at
  own.simulated = simulated
  show(editor)
}

/** Sets all that keys show, over what plays; null ends it. */
export function cue(editor: Editor, values: LiveValues | null): void {
  const own = stateOf(editor)
  if (values === null && own.cued === NOTHING) return
  own.cued = values ?? NOTHING
  show(editor)
}

function show(editor: Editor): void {
  const own = stateOf(editor)
  own.live = own.cued === NOTHING ? own.playing : own.playing === NOTHING ? own.cued : { ...own.playing, ...own.cued }
  for (const listener of own.listeners) listener()
}

/** All that plays just now, by address. */
export const liveValues = (editor: Editor): LiveValues => stateOf(editor).live

/** Whether something plays over a channel: what is seen of it then says nothing of its own value. */
export const isPlayed = (editor: Editor, address: string): boolean => Object.hasOwn(stateOf(editor).live, address)

/** Seconds since what plays began; null where nothing does. */
export const liveTime = (editor: Editor): number | null => stateOf(editor).time

/** What moves by itself while something plays. */
export const liveSimulation = (editor: Editor, rig: Rig): Simulation | null => stateOf(editor).simulated?.(rig) ?? null

/** Writes what plays over a pose. */
export const writeLive = (editor: Editor, rig: Rig, pose: Float64Array): void => void writeValues(rig, stateOf(editor).live, pose)
