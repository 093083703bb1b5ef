/** What sweeps of joints found, as long as neither the joint nor what it turns has changed. */
import { create } from 'zustand'
import type { Joint, Puppet } from '@marionette/core/document/schema'
import { assetsOf } from '@marionette/core/document/tree'
import { sweepInWorker } from '../workers/client'
import type { SweptJoint } from '../workers/cutting'
import { loadAssets } from './assets'
import { openPuppet } from './document'
import { orSaid } from './work'

interface Kept {
  readonly swept: SweptJoint
  /** What was looked at. */
  readonly joint: Joint
  readonly from: Pick<Puppet, 'parts' | 'bones' | 'drawings' | 'pictures'>
}

interface SweepState {
  readonly kept: Readonly<Record<string, Kept>>
  /** Share that is done of the joint that is being swept. */
  readonly running: { readonly joint: string; readonly done: number } | null
}

export const useSweeps = create<SweepState>(() => ({ kept: {}, running: null }))

let abort: AbortController | null = null

/** The sweep of a joint if it still holds. */
export function sweepOf(state: SweepState, puppet: Puppet, joint: string): SweptJoint | null {
  const kept = state.kept[joint]
  if (!kept || kept.joint !== puppet.joints[joint]) return null
  const { from } = kept
  const isSame =
    from.parts === puppet.parts && from.bones === puppet.bones && from.drawings === puppet.drawings && from.pictures === puppet.pictures
  return isSame ? kept.swept : null
}

/** Sweeps joints one after the other; a sweep that runs is ended. */
export async function sweepJoints(ids: readonly string[]): Promise<void> {
  cancelSweep()
  const own = new AbortController()
  abort = own
  await orSaid(async () => {
    for (const id of ids) {
      const puppet = openPuppet()
      const joint = puppet.joints[id]
      if (!joint) continue
      useSweeps.setState({ running: { joint: id, done: 0 } })
      const assets = await loadAssets(assetsOf(puppet))
      const progress = (done: number): void => useSweeps.setState({ running: { joint: id, done } })
      const swept = await sweepInWorker(puppet, joint, assets, progress, own.signal)
      useSweeps.setState((s) => ({ kept: { ...s.kept, [id]: { swept, joint, from: puppet } } }))
    }
  })
  if (abort === own) useSweeps.setState({ running: null })
}

export function cancelSweep(): void {
  abort?.abort()
  abort = null
  useSweeps.setState({ running: null })
}
