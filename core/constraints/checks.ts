/** What must hold of constraints: chains are chains, and none waits for itself. */
import type { Check } from '../kernel/records'
import { constraintCycle } from './order'

/** What must hold of every target and constraint. */
export const constraintChecks: readonly Check[] = [
  {
    stage: 'records',
    needs: ['constraints', 'bones'],
    find: ({ constraints, bones }) =>
      constraints
        .filter((c) => (c.kind === 'reach' || c.kind === 'path') && c.bones.some((b, i) => i > 0 && bones[b]?.parent !== c.bones[i - 1]))
        .map(({ id }) => ({ path: `constraints.${id}`, message: 'moves bones that do not hang one from the other' })),
  },
  {
    stage: 'circles',
    needs: ['constraints', 'bones', 'targets'],
    find(puppet) {
      const cycle = constraintCycle(puppet)
      if (cycle === null) return []
      const name = puppet.constraints.find((c) => c.id === cycle)?.name ?? cycle
      const sentence = `"${name}" would wait for itself: what it looks for hangs from what it moves.`
      return [{ path: `constraints.${cycle}`, message: 'waits for itself', sentence }]
    },
  },
]
