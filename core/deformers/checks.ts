/** What must hold of deformers. */
import type { Check } from '../kernel/records'
import { deformersInViews } from './stack'
import { kindOfDeformer } from './kinds'

/** What must hold of every deformer. */
export const deformerChecks: readonly Check[] = [
  {
    stage: 'records',
    needs: ['parts'],
    find: ({ parts }) =>
      Object.values(parts).flatMap((part) =>
        deformersInViews(part).flatMap((d) => kindOfDeformer(d).problems?.(d, `parts.${part.id}.deformers.${d.id}`) ?? []),
      ),
  },
]
