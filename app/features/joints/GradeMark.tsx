/** How a joint holds: good, or how large the worst of it is. */
import type { Grade, WorstFault } from '@marionette/core/reports/sweepGrade'

/** Names of grades for people. */
export const GRADE_NAMES: Readonly<Record<Grade, string>> = { good: 'good', look: 'look at it', broken: 'broken' }

const TONES: Readonly<Record<Grade, string>> = { good: 'text-verdigris', look: 'text-brass-ink', broken: 'text-cord' }

export function GradeMark({ fault }: { fault: WorstFault }) {
  return (
    <span className={`num text-xs ${TONES[fault.grade]}`} title={GRADE_NAMES[fault.grade]}>
      {fault.grade === 'good' ? 'good' : `${fault.across} px`}
    </span>
  )
}
