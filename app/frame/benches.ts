/** The work areas in the order of the work. */
import type { Puppet } from '@marionette/core/puppet/schema'
import type { BenchId } from '../editor/session'
import type { Finding } from '@marionette/core/kernel/finding'

export interface Bench {
  readonly id: BenchId
  readonly name: string
  /** What will be done here, for benches whose own work has not begun yet. */
  readonly ahead: string | null
  readonly count: (puppet: Puppet) => number | null
}

export const BENCHES: readonly Bench[] = [
  { id: 'parts', name: 'Parts', ahead: null, count: (p) => Object.keys(p.parts).length - 1 },
  { id: 'bones', name: 'Bones', ahead: null, count: (p) => Object.keys(p.bones).length },
  {
    id: 'shape',
    name: 'Shape',
    ahead: null,
    count: (p) => p.responses.length || null,
  },
  { id: 'face', name: 'Face', ahead: null, count: (p) => Object.values(p.parts).filter((q) => q.swap !== null).length || null },
  {
    id: 'rehearse',
    name: 'Rehearse',
    ahead: 'Here the puppet will act: poses pegged on a line, clips, springs and a stand-in actor.',
    count: () => null,
  },
  { id: 'send', name: 'Send', ahead: null, count: () => null },
]

export const isBench = (id: string | undefined): id is BenchId => BENCHES.some((b) => b.id === id)

export const findingsAt = (findings: readonly Finding[], bench: BenchId): Finding[] => findings.filter((f) => f.bench === bench)
