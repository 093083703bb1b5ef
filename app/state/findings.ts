/** The rig report of the open puppet, made again when its structure changed. */
import { inspectRig, type Finding } from '@marionette/core/inspect/report'
import type { Puppet } from '@marionette/core/document/schema'
import { useDocument } from './document'
import { sweepOf, useSweeps } from './sweeps'

let last: {
  parts: Puppet['parts']
  bones: Puppet['bones']
  joints: Puppet['joints']
  sweeps: object
  findings: readonly Finding[]
} | null = null
const NONE: readonly Finding[] = []

function findingsOf(puppet: Puppet | null): readonly Finding[] {
  if (!puppet) return NONE
  const state = useSweeps.getState()
  const { parts, bones, joints } = puppet
  if (last?.parts !== parts || last.bones !== bones || last.joints !== joints || last.sweeps !== state.kept) {
    const swept = new Map(
      Object.keys(joints).flatMap((id) => {
        const found = sweepOf(state, puppet, id)
        return found ? [[id, found.sweep] as const] : []
      }),
    )
    last = { parts, bones, joints, sweeps: state.kept, findings: inspectRig(puppet, swept) }
  }
  return last.findings
}

export function useFindings(): readonly Finding[] {
  // Sweeps end long after the change that asked for them.
  useSweeps((s) => s.kept)
  return useDocument((s) => findingsOf(s.gesture === null ? s.puppet : (s.history?.puppet ?? null)))
}
