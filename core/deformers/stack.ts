/** Deformers where they stand: in stacks on parts, in each view. */
import { isDraft } from 'immer'
import type { Part, Puppet } from '../puppet/schema'
import { handleName, handlesOf, type Deformer } from './records'

/** A handle with the deformer that it belongs to. */
export interface HandleRecord {
  readonly id: string
  readonly name: string
  readonly deformer: Deformer
}
interface Stacked {
  readonly deformers: ReadonlyMap<string, Deformer>
  readonly handles: ReadonlyMap<string, HandleRecord>
}
const stacks = new WeakMap<Record<string, Part>, Stacked>()

/** Deformers of a part in all views, those of the shown one first. */
export const deformersInViews = ({ deformers, inViews }: Part): Deformer[] => [
  ...deformers,
  ...Object.values(inViews).flatMap((own) => own.deformers ?? []),
]

/**
 * All deformers and handles of a puppet by their ids, as they are in the shown view where they are in it: a pose may
 * hold values for other views. Found once for each document; a draft may change, and is asked anew.
 */
export function stackedIn({ parts }: Pick<Puppet, 'parts'>): Stacked {
  const known = isDraft(parts) ? undefined : stacks.get(parts)
  if (known) return known
  const deformers = new Map<string, Deformer>()
  const handles = new Map<string, HandleRecord>()
  for (const deformer of Object.values(parts).flatMap(deformersInViews)) {
    if (!deformers.has(deformer.id)) deformers.set(deformer.id, deformer)
    handlesOf(deformer).forEach((id, at) => {
      if (!handles.has(id)) handles.set(id, { id, name: handleName(deformer, at), deformer })
    })
  }
  const made = { deformers, handles }
  if (!isDraft(parts)) stacks.set(parts, made)
  return made
}
