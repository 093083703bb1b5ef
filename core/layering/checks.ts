/** What must hold of masks and effects: they can be painted, and at a cost that a machine can bear. */
import type { Check } from '../kernel/records'
import { costProblems } from './costs'
import { inputsOf } from './effects'
import { maskCycle } from './masks'

/** What must hold of masks and effects. */
export const layeringChecks: readonly Check[] = [
  {
    stage: 'records',
    needs: ['parts'],
    find: ({ parts }) =>
      Object.values(parts).flatMap(({ id, effect }) =>
        (effect?.steps ?? []).flatMap((step, at) =>
          inputsOf(step).some((i) => typeof i === 'number' && i >= at)
            ? [{ path: `parts.${id}.effect.steps.${at}`, message: 'works on a step that has not been made yet' }]
            : [],
        ),
      ),
  },
  {
    stage: 'circles',
    needs: ['parts'],
    find(puppet) {
      const masked = maskCycle(puppet)
      if (masked === null) return []
      const message = `has "${masked}", which masks itself or is masked by masks without end`
      return [{ path: 'parts', message, sentence: `“${masked}” would mask itself there.` }]
    },
  },
  // Costs are counted along masks, which must be no circle.
  { stage: 'last', needs: ['parts', 'drawings'], find: costProblems },
]
