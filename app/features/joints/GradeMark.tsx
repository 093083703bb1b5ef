/** How a joint holds: good, or how large the worst of it is. */
import { GRADE_NAMES, type Grade, type WorstFault } from '@marionette/core/reports/sweepGrade'

const TONES: Readonly<Record<Grade, string>> = { good: 'text-verdigris', look: 'text-brass-ink', broken: 'text-cord' }

export function GradeMark({ fault }: { fault: WorstFault }) {
  return (
    <span className={`num text-xs ${TONES[fault.grade]}`} title={GRADE_NAMES[fault.grade]}>
      {fault.grade === 'good' ? GRADE_NAMES.good : `${fault.across} px`}
    </span>
  )
}
