/** The rig report of the open puppet, made again when its structure changed. */
import { inspectRig, type Finding } from '@marionette/core/inspect/report'
import type { Puppet } from '@marionette/core/document/schema'
import { useDocument } from './document'

let last: { parts: Puppet['parts']; bones: Puppet['bones']; findings: readonly Finding[] } | null = null
const NONE: readonly Finding[] = []

function findingsOf(puppet: Puppet | null): readonly Finding[] {
  if (!puppet) return NONE
  if (last?.parts !== puppet.parts || last.bones !== puppet.bones)
    last = { parts: puppet.parts, bones: puppet.bones, findings: inspectRig(puppet) }
  return last.findings
}

export const useFindings = (): readonly Finding[] =>
  useDocument((s) => findingsOf(s.gesture === null ? s.puppet : (s.history?.puppet ?? null)))
