/**
 * The last check of an edit: whatever a command was given, what it made must be a puppet that holds together, with numbers
 * that the maths survives. Records that did not change are not gone through again.
 */
import { LARGEST_NUMBER } from '../kernel/numbers'
import { brokenInvariants } from './invariants'
import type { Puppet } from './schema'

/** Whether all numbers in what changed between two states are numbers that a document may hold. */
function isWithinRange(after: unknown, before: unknown): boolean {
  if (after === before) return true
  if (typeof after === 'number') return Math.abs(after) <= LARGEST_NUMBER
  if (typeof after !== 'object' || after === null) return true
  const old = (typeof before === 'object' && before !== null ? before : {}) as Record<string, unknown>
  if (Array.isArray(after)) return after.every((value, i) => isWithinRange(value, old[i]))
  for (const key of Object.keys(after)) {
    const known = Object.hasOwn(old, key) ? old[key] : undefined
    if (!isWithinRange((after as Record<string, unknown>)[key], known)) return false
  }
  return true
}

/** Why an edit must not stand, as a sentence; null where what it made is sound. Assumes that it was sound before. */
export function brokenBy(before: Puppet, after: Puppet): string | null {
  if (!isWithinRange(after, before)) return 'That would lead to numbers that are too large to work with.'
  const [problem] = brokenInvariants(after, before)
  if (!problem) return null
  return problem.sentence ?? `That would break the puppet: ${problem.path} ${problem.message}.`
}
