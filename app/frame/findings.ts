/** The rig report of the open puppet, made again when its structure changed. */
import { inspectRig } from '@marionette/core/reports/report'
import type { Puppet } from '@marionette/core/puppet/schema'
import { useDocument } from '../editor/document'
import { faultSaid } from '@marionette/core/reports/sweepGrade'
import { sweepOf, useSweeps } from '../features/joints/sweeps'
import type { Finding } from '@marionette/core/kernel/finding'
import { useEditor, editorState, type Editor } from '../editor/editor'

interface Own {
  last: {
    parts: Puppet['parts']
    bones: Puppet['bones']
    joints: Puppet['joints']
    sweeps: object
    findings: readonly Finding[]
  } | null
}

const stateOf = editorState((): Own => ({ last: null }))

const NONE: readonly Finding[] = []

function findingsOf(editor: Editor, puppet: Puppet | null): readonly Finding[] {
  const own = stateOf(editor)
  if (!puppet) return NONE
  const state = useSweeps.of(editor).getState()
  const { parts, bones, joints } = puppet
  if (own.last?.parts !== parts || own.last.bones !== bones || own.last.joints !== joints || own.last.sweeps !== state.kept) {
    const swept = new Map(
      Object.keys(joints).flatMap((id) => {
        const found = sweepOf(state, puppet, id)
        return found ? [[id, { grade: found.sweep.verdict.grade, said: faultSaid(found.sweep.verdict) }] as const] : []
      }),
    )
    own.last = { parts, bones, joints, sweeps: state.kept, findings: inspectRig(puppet, swept) }
  }
  return own.last.findings
}

export function useFindings(): readonly Finding[] {
  const editor = useEditor()
  // Sweeps end long after the change that asked for them.
  useSweeps((s) => s.kept)
  return useDocument((s) => findingsOf(editor, s.gesture === null ? s.puppet : (s.history?.puppet ?? null)))
}
