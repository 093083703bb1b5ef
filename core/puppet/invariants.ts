/** What zod cannot say of a puppet: that its trees are trees, that every id it mentions exists, and what capabilities ask for. */
import type { Problem } from '../kernel/problem'
import type { Check } from '../kernel/records'
import { CAPABILITIES } from './capabilities'
import { doubledIds, keyProblems, KINDS } from './ids'
import { referenceProblems } from './references'
import { Puppet } from './schema'

export type { Problem } from '../kernel/problem'

const CHECKS: readonly Check[] = CAPABILITIES.flatMap((c) => c.checks ?? [])
const FILED = new Set(KINDS.map((k) => k.field))

/**
 * What walks the document comes after what makes walking safe: first keys and trees, then what refers to something, then what
 * could wait for itself or cost too much.
 */
const STAGES = ['trees', 'records', 'circles', 'last'] as const

/**
 * All breaches of the invariants of the first stage that has any; empty for a sound puppet. Assumes that the schema holds.
 *
 * @param before a sound puppet from which it was edited: what depends on nothing that changed is not checked again
 */
export function brokenInvariants(puppet: Puppet, before?: Puppet): Problem[] {
  const isOther = (field: keyof Puppet): boolean => !before || puppet[field] !== before[field]
  for (const stage of STAGES) {
    const found = CHECKS.filter((c) => c.stage === stage && c.needs.some(isOther)).flatMap((c) => c.find(puppet))
    if (stage === 'trees' && [...FILED].some(isOther)) found.unshift(...keyProblems(puppet), ...doubledIds(puppet))
    if (stage === 'records') found.push(...referenceProblems(puppet, before))
    if (found.length > 0) return found
  }
  return []
}

/** A puppet that does not hold together; `problems` lists why, the message quotes the first. */
export class PuppetError extends Error {
  constructor(readonly problems: readonly Problem[]) {
    const first = problems[0]
    const more = problems.length > 1 ? ` (and ${problems.length - 1} more)` : ''
    super(first ? `${first.path} ${first.message}${more}` : 'the puppet is not valid')
  }
}

/** Checks unknown data at a border and returns it as a puppet. Throws PuppetError. */
export function parsePuppet(data: unknown): Puppet {
  const parsed = Puppet.safeParse(data)
  if (!parsed.success) {
    throw new PuppetError(parsed.error.issues.map((i) => ({ path: i.path.join('.') || 'puppet', message: i.message })))
  }
  const problems = brokenInvariants(parsed.data)
  if (problems.length > 0) throw new PuppetError(problems)
  return parsed.data
}
