/** What differs between two states of a puppet. Documents share what an edit did not touch: fields that are the same object are as they were. */
import type { Puppet } from './schema'

export type Fields = ReadonlySet<keyof Puppet>

/** Fields of a puppet that an edit touched. */
export const touchedBetween = (before: Puppet, after: Puppet): Fields =>
  new Set((Object.keys(after) as (keyof Puppet)[]).filter((field) => after[field] !== before[field]))

/** Whether two states of a puppet differ in nothing but some fields. */
export const isSameBut = (before: Puppet, after: Puppet, ...but: readonly (keyof Puppet)[]): boolean =>
  before === after || [...touchedBetween(before, after)].every((field) => but.includes(field))
