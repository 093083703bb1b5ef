/** Speeds of bones that are held on the stage: those of a stop that is looked at or recorded. */
import type { Moment } from '@marionette/core/kernel/stage'
import type { Rig } from '@marionette/core/puppet/rig'
import type { Puppet, Response } from '@marionette/core/puppet/schema'
import { heldMotion, type Speeds } from '@marionette/core/simulation/speeds'
import { editorStore, type Editor } from './editor'
import { nth } from '@marionette/core/kernel/sure'

export type { Speeds } from '@marionette/core/simulation/speeds'

const NONE: Speeds = new Map()

/** Speeds that are held, degrees a second by bones. */
export const useHeldSpeeds = editorStore<{ held: Speeds }>(() => ({ held: NONE }))

/** Holds what a stop of a response listens to; nothing where it listens to no speed. */
export function holdSpeedsOf(editor: Editor, { inputs }: Pick<Response, 'inputs'>, at: readonly number[]): void {
  const held = new Map(inputs.flatMap((input, k) => (input.kind === 'speed' ? [[input.bone, nth(at, k)] as const] : [])))
  if (held.size > 0 || useHeldSpeeds.of(editor).getState().held.size > 0) useHeldSpeeds.of(editor).setState({ held })
}

export const releaseSpeeds = (editor: Editor): void => {
  if (useHeldSpeeds.of(editor).getState().held.size > 0) useHeldSpeeds.of(editor).setState({ held: NONE })
}

/** A moment at which bones have the speeds that are held, or others. */
export const heldMoment = (editor: Editor, rig: Rig, speeds: Speeds = useHeldSpeeds.of(editor).getState().held): Moment => ({
  time: null,
  simulation: heldMotion(rig, speeds),
})

export const hearsSpeed = ({ responses }: Puppet): boolean => responses.some((r) => r.inputs.some((i) => i.kind === 'speed'))
