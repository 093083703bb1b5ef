/** The rig report: findings of all capabilities about a puppet. */
import type { Finding, JointFaults, StrayIn } from '../kernel/finding'
import type { JointId } from '../kernel/ids'
import { CAPABILITIES } from '../puppet/capabilities'
import type { Puppet } from '../puppet/schema'

/** All findings, the gravest first. An empty skeleton is no finding: the rig has not been started. */
export function inspectRig(
  puppet: Puppet,
  sweeps: ReadonlyMap<JointId, JointFaults> = new Map(),
  strays: readonly StrayIn[] = [],
): Finding[] {
  const found = CAPABILITIES.flatMap(({ findings = [] }) => findings.flatMap((inspect) => inspect(puppet, { sweeps, strays })))
  return found.sort((a, b) => a.gravity - b.gravity)
}
