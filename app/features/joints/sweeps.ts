/** What sweeps of joints found, as long as neither the joint nor what it turns has changed. */
import type { Puppet } from '@marionette/core/puppet/schema'
import { paintedAssetsOf } from '@marionette/core/parts/tree'
import type { SweptJoint } from '../../jobs/cutting'
import { loadAssets } from '../../editor/assets'
import { openPuppet } from '../../editor/document'
import { orSaid } from '../../editor/work'
import type { Joint } from '@marionette/core/joints/records'
import { editorState, editorStore, type Editor } from '../../editor/editor'

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

export const useSweeps = editorStore<SweepState>(() => ({ kept: {}, running: null }))

interface Own {
  abort: AbortController | null
}

const stateOf = editorState((): Own => ({ abort: null }))

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
export async function sweepJoints(editor: Editor, ids: readonly string[]): Promise<void> {
  const own = stateOf(editor)
  cancelSweep(editor)
  const abort = (own.abort = new AbortController())
  await orSaid(editor, async () => {
    for (const id of ids) {
      const puppet = openPuppet(editor)
      const joint = puppet.joints[id]
      if (!joint) continue
      useSweeps.of(editor).setState({ running: { joint: id, done: 0 } })
      const assets = await loadAssets(editor, paintedAssetsOf(puppet))
      const progress = (done: number): void => useSweeps.of(editor).setState({ running: { joint: id, done } })
      const swept = await editor.jobs.sweep(puppet, joint, assets, progress, abort.signal)
      useSweeps.of(editor).setState((s) => ({ kept: { ...s.kept, [id]: { swept, joint, from: puppet } } }))
    }
  })
  if (own.abort === abort) useSweeps.of(editor).setState({ running: null })
}

export function cancelSweep(editor: Editor): void {
  const own = stateOf(editor)
  own.abort?.abort()
  own.abort = null
  useSweeps.of(editor).setState({ running: null })
}
