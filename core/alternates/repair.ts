/** What follows for swaps when a puppet was edited: each alternate has a number, and nothing else has one. */
import type { Repair } from '../kernel/records'
import type { Part, Puppet } from '../puppet/schema'
import { isWithinPart } from '../parts/tree'

/** New alternates get numbers, and what is none any more has none. */
export const repairSwaps: Repair = (before, after) =>
  before.parts !== after.parts && Object.values(after.parts).some((p) => p.swap !== null || p.alternate !== 0) ? numberAll : null

function numberAll(puppet: Puppet): void {
  const swaps = new Set(Object.values(puppet.parts).flatMap((p) => (p.swap ? [p.id] : [])))
  for (const part of Object.values(puppet.parts)) if (part.alternate !== 0 && !swaps.has(part.parent ?? '')) part.alternate = 0
  for (const id of swaps) numberAlternates(puppet, puppet.parts[id]!)
}

function numberAlternates(puppet: Puppet, { id: own, swap, children }: Part): void {
  const { parts } = puppet
  const alternates = children.map((id) => parts[id]!)
  const taken = new Set<number>()
  for (const part of alternates) {
    // Of two with one number, as a copy has, the later one gets a new one.
    if (taken.has(part.alternate)) part.alternate = 0
    else if (part.alternate !== 0) taken.add(part.alternate)
  }
  const below = (id: string | null): boolean => id === null || (parts[id] !== undefined && id !== own && isWithinPart(puppet, id, own))
  if (swap!.matches.some((m) => !below(m.a) || !below(m.b))) swap!.matches = swap!.matches.filter((m) => below(m.a) && below(m.b))
  let next = Math.max(0, ...taken)
  for (const part of alternates) if (part.alternate === 0) part.alternate = ++next
  if (swap!.initial !== 0 && !alternates.some((p) => p.alternate === swap!.initial)) swap!.initial = alternates[0]?.alternate ?? 0
}
