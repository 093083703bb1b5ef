/** Swaps: parts that show one alternate at a time, and flipbooks that turn their pages. */
import type { Capability } from '../kernel/capability'
import { listedKind, type Reference } from '../kernel/records'
import type { Problem } from '../kernel/problem'
import type { Part, Puppet } from '../puppet/schema'
import { swapChannels } from './channels'
import * as commands from './commands'
import { repairSwaps } from './repair'

/** Alternates have numbers of their own, and only they have. */
function swapProblems({ parts }: Puppet, { id, swap, content, children }: Part): Problem[] {
  const path = `parts.${id}.swap`
  const numbers = children.flatMap((child) => (parts[child] ? [parts[child].alternate] : []))
  if (!swap) return numbers.some((n) => n !== 0) ? [{ path, message: 'is none, and parts in it have numbers of alternates' }] : []
  if (content.kind !== 'group') return [{ path, message: 'is set on a part that is no group' }]
  if (numbers.includes(0) || new Set(numbers).size < numbers.length)
    return [{ path, message: 'has alternates without numbers of their own' }]
  return []
}

const references: Reference[] = [
  ...['a', 'b'].map((end): Reference => ({ at: `parts/*/swap/matches/*/${end}`, to: 'part', says: 'matches', gone: 'repaired' })),
  { at: 'flipbooks/*/channel', to: 'channel', says: 'turns the pages of', gone: { drop: 'flipbooks/*' } },
]

/** What alternates, their morphs and flipbooks add to a puppet. */
export const alternates: Capability = {
  name: 'alternates',
  kinds: [listedKind('flipbook', 'flipbook', 'flipbooks')],
  references,
  checks: [{ stage: 'records', needs: ['parts'], find: (p) => Object.values(p.parts).flatMap((part) => swapProblems(p, part)) }],
  repairs: [repairSwaps],
  channels: [swapChannels],
  commands: [commands],
}
