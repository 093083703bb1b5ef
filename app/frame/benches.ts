/** The work areas in the order of the work. */
import type { Puppet } from '@marionette/core/puppet/schema'
import type { BenchId } from '../editor/session'
import type { Finding } from '@marionette/core/kernel/finding'

export interface Bench {
  readonly id: BenchId
  readonly name: string
  /** Other words by which people look for it. */
  readonly words: string
  /** What will be done here, for benches whose own work has not begun yet. */
  readonly ahead: string | null
  readonly count: (puppet: Puppet) => number | null
}

export const BENCHES: readonly Bench[] = [
  { id: 'parts', name: 'Parts', words: 'layers cut joints views', ahead: null, count: (p) => Object.keys(p.parts).length - 1 },
  { id: 'bones', name: 'Bones', words: 'skeleton rig ik weights bind', ahead: null, count: (p) => Object.keys(p.bones).length },
  {
    id: 'shape',
    name: 'Shape',
    words: 'deform mesh warp points responses corrective',
    ahead: null,
    count: (p) => p.responses.length || null,
  },
  {
    id: 'face',
    name: 'Face',
    words: 'lip sync mouth visemes expressions eyes blink',
    ahead: null,
    count: (p) => Object.values(p.parts).filter((q) => q.swap !== null).length || null,
  },
  {
    id: 'rehearse',
    name: 'Rehearse',
    words: 'animate clips keys timeline',
    ahead: 'Here the puppet will act: poses hung on a line, clips, springs and a stand-in actor.',
    count: () => null,
  },
  { id: 'send', name: 'Send', words: 'export save as download render picture svg png psd', ahead: null, count: () => null },
]

/** The benches at which something can be done; the others are ahead. */
export const OPEN_BENCHES = BENCHES.filter((b) => b.ahead === null)

export const isBench = (id: string | undefined): id is BenchId => BENCHES.some((b) => b.id === id)

export const findingsAt = (findings: readonly Finding[], bench: BenchId): Finding[] => findings.filter((f) => f.bench === bench)
