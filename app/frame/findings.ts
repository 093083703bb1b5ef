/** The rig report of the open puppet, made again when its structure changed. */
import { inspectRig } from '@marionette/core/reports/report'
import type { Puppet } from '@marionette/core/puppet/schema'
import { useDocument } from '../editor/document'
import { faultSaid } from '@marionette/core/reports/sweepGrade'
import { sweepOf, useSweeps } from '../features/joints/sweeps'
import { straysIn, useStrays } from '../features/cutting/strays'
import type { Finding, StrayIn } from '@marionette/core/kernel/finding'
import { useEditor, editorState, type Editor } from '../editor/editor'

interface Own {
  last: {
    parts: Puppet['parts']
    bones: Puppet['bones']
    joints: Puppet['joints']
    sweeps: object
    strays: readonly StrayIn[]
    findings: readonly Finding[]
  } | null
}

const stateOf = editorState((): Own => ({ last: null }))

const NONE: readonly Finding[] = []

const isSameList = <T>(a: readonly T[], b: readonly T[]): boolean => a.length === b.length && a.every((v, i) => v === b[i])

function findingsOf(editor: Editor, puppet: Puppet | null): readonly Finding[] {
  const own = stateOf(editor)
  if (!puppet) return NONE
  const state = useSweeps.of(editor).getState()
  const strays = straysIn(useStrays.of(editor).getState(), puppet)
  const { parts, bones, joints } = puppet
  const last = own.last
  const isSame = last?.parts === parts && last.bones === bones && last.joints === joints
  if (!isSame || last.sweeps !== state.kept || !isSameList(last.strays, strays)) {
    const swept = new Map(
      Object.keys(joints).flatMap((id) => {
        const found = sweepOf(state, puppet, id)
        return found ? [[id, { grade: found.sweep.verdict.grade, said: faultSaid(found.sweep.verdict) }] as const] : []
      }),
    )
    own.last = { parts, bones, joints, sweeps: state.kept, strays, findings: inspectRig(puppet, swept, strays) }
  }
  return own.last?.findings ?? NONE
}

export function useFindings(): readonly Finding[] {
  const editor = useEditor()
  // Sweeps end long after the change that asked for them.
  useSweeps((s) => s.kept)
  useStrays((s) => s.kept)
  return useDocument((s) => findingsOf(editor, s.gesture === null ? s.puppet : (s.history?.puppet ?? null)))
}
