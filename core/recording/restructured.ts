/**
 * Points that come or go while a response is recorded. The shape gets them at rest, where they change nothing; what was recorded before
 * goes along with the outline.
 */
import type { Drawing } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { pointIds } from '../responses/carryOver'

/** Whether an edit gives drawings other points, within the paths that there are, and does nothing else. */
export function isRestructured(before: Puppet, after: Puppet): boolean {
  const isElsewhere = (Object.keys(before) as (keyof Puppet)[]).some(
    (key) => key !== 'drawings' && key !== 'responses' && before[key] !== after[key],
  )
  const changed = Object.values(after.drawings).filter((d) => before.drawings[d.id] !== d)
  return !isElsewhere && changed.length > 0 && changed.every((d) => hasOtherPoints(before.drawings[d.id], d))
}

function hasOtherPoints(before: Drawing | undefined, after: Drawing): boolean {
  if (!before) return false
  const plan = ({ shapes }: Drawing): string => shapes.map((s) => `${s.id}:${s.paths.length}`).join(' ')
  const [was, is] = [pointIds(before), pointIds(after)]
  return plan(before) === plan(after) && (was.size !== is.size || [...is].some((id) => !was.has(id)))
}
