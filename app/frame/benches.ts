/** The work areas in the order of the work. */
import type { Puppet } from '@marionette/core/puppet/schema'
import type { BenchId } from '../editor/session'
import type { Finding } from '@marionette/core/kernel/finding'

export interface Bench {
  readonly id: BenchId
  readonly name: string
  /** Other words by which people look for it. */
  readonly words: string
  readonly count: (puppet: Puppet) => number | null
}

export const BENCHES: readonly Bench[] = [
  { id: 'parts', name: 'Parts', words: 'layers cut joints views', count: (p) => Object.keys(p.parts).length - 1 },
  { id: 'bones', name: 'Bones', words: 'skeleton rig ik weights bind', count: (p) => Object.keys(p.bones).length },
  {
    id: 'shape',
    name: 'Shape',
    words: 'deform mesh warp points responses corrective',
    count: (p) => p.responses.length || null,
  },
  {
    id: 'face',
    name: 'Face',
    words: 'lip sync mouth visemes expressions eyes blink',
    count: (p) => Object.values(p.parts).filter((q) => q.swap !== null).length || null,
  },
  {
    id: 'rehearse',
    name: 'Rehearse',
    words: 'animate clips keys timeline',
    count: (p) => p.clips.length || null,
  },
  { id: 'send', name: 'Send', words: 'export save as download render picture svg png psd', count: () => null },
]

export const isBench = (id: string | undefined): id is BenchId => BENCHES.some((b) => b.id === id)

export const findingsAt = (findings: readonly Finding[], bench: BenchId): Finding[] => findings.filter((f) => f.bench === bench)
