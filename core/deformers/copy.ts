/** Copies of deformers, with ids of their own for them and for their handles. */
import type { CopyInside } from '../kernel/copying'
import type { Deformer } from './records'
import { kindOfDeformer } from './kinds'

/** The same deformers under ids that begin with that of their part. */
const deformersUnder = (part: string, deformers: readonly Deformer[]): Deformer[] =>
  deformers.map((d, i) => kindOfDeformer(d).underId(d, `${part}-d${i + 1}`))

/** Gives the deformers of a copied part new ids. */
export const copyDeformers: CopyInside = (part) => ({
  ...part,
  deformers: deformersUnder(part.id, part.deformers),
  inViews: Object.fromEntries(
    Object.entries(part.inViews).map(([view, own]) => [
      view,
      own.deformers ? { ...own, deformers: deformersUnder(part.id, own.deformers) } : own,
    ]),
  ),
})
