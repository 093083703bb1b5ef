/** What follows for swaps when a puppet was edited: each alternate has a number, and nothing else has one. */
import type { Part, Puppet } from '../document/schema'
import { isWithinPart } from '../document/tree'

/** Whether an edit may have left swaps or alternates that have to be looked at. */
export const touchesSwaps = (before: Puppet, after: Puppet): boolean =>
  before.parts !== after.parts && Object.values(after.parts).some((p) => p.swap !== null || p.alternate !== 0)

/** Channels that only swaps have. */
const SWAPPED = /^part\/[^/]+\/(alternate|before|way)$/

/** Gives new alternates numbers, and takes them from what is none any more. */
export function keepSwaps(puppet: Puppet): void {
  const swaps = new Set(Object.values(puppet.parts).flatMap((p) => (p.swap ? [p.id] : [])))
  for (const part of Object.values(puppet.parts)) if (part.alternate !== 0 && !swaps.has(part.parent ?? '')) part.alternate = 0
  for (const address of Object.keys(puppet.pose))
    if (SWAPPED.test(address) && !swaps.has(address.split('/')[1]!)) delete puppet.pose[address]
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
