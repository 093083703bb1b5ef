/** Deformers that have lost their form: they move nothing, or not what they seem to. */
import type { Finding, Inspect } from '../kernel/finding'
import { kindOfDeformer } from './kinds'

/** Deformers that have no size and so bend nothing. */
export const shapelessDeformers: Inspect = ({ parts }) =>
  Object.values(parts).flatMap(({ id, name, deformers }) =>
    deformers.flatMap((d): Finding[] => {
      const fault = kindOfDeformer(d).fault?.(d) ?? null
      const target = { kind: 'part', id, name } as const
      return fault === null ? [] : [{ gravity: 3, code: 'deformer-degenerate', bench: 'shape', target, message: `${fault} (${d.name})` }]
    }),
  )
