/** What is measured in a range test, and how bad it is. */
import type { Grade } from '../reports/sweepGrade'
import type { RunKind } from './runs'

export type FaultKind = 'holes' | 'corners' | 'doubled' | 'opens' | 'folded' | 'overlap' | 'lost' | 'left' | 'jump' | 'fast' | 'face'

/** Where a fault begins to be worth a look, and from where on anybody sees it; null where it may be meant. */
interface Scale {
  readonly look: number
  readonly broken: number | null
}

const SCALES: Readonly<Record<FaultKind, Scale>> = {
  // Shares of the circle of a joint.
  holes: { look: 0.06, broken: 0.2 },
  corners: { look: 0.06, broken: 0.2 },
  doubled: { look: 0.06, broken: null },
  opens: { look: 0.12, broken: 0.5 },
  // Shares of the area at rest.
  folded: { look: 0.01, broken: 0.06 },
  overlap: { look: 0.06, broken: 0.25 },
  lost: { look: 0.3, broken: 0.6 },
  // Sizes of the piece.
  left: { look: 0.15, broken: 0.5 },
  // Shares of the figure's height.
  jump: { look: 0.01, broken: 0.06 },
  // Heights of the figure a second.
  fast: { look: 5, broken: null },
  face: { look: 0.5, broken: null },
}

/** Controls, faces and alternates change forms on purpose: shrinking and coming off may be meant there. */
const MEANT: Readonly<Partial<Record<FaultKind, readonly RunKind[]>>> = {
  lost: ['control', 'expression', 'alternate', 'clip', 'random'],
  left: ['control', 'expression', 'alternate', 'clip'],
  overlap: ['control', 'expression', 'alternate', 'clip', 'random'],
  folded: ['control', 'expression', 'alternate'],
}
/** What is only measured for the chart there. */
const UNTOLD: Readonly<Partial<Record<FaultKind, readonly RunKind[]>>> = { lost: ['control', 'expression', 'alternate', 'clip', 'random'] }

/** Whether anything is said of a kind of fault in a run of a kind. */
export const isTold = (kind: FaultKind, run: RunKind): boolean => !UNTOLD[kind]?.includes(run)

/** How bad a fault is in a run of a kind. */
export function gradeOf(kind: FaultKind, amount: number, run: RunKind): Grade {
  const { look, broken } = SCALES[kind]
  if (amount < look || !isTold(kind, run)) return 'good'
  return broken !== null && amount >= broken && !MEANT[kind]?.includes(run) ? 'broken' : 'look'
}

/** Faults by how far they are beyond where a look is worth it: 1 is just there. */
export const severityOf = (kind: FaultKind, amount: number): number => amount / SCALES[kind].look

const percent = (share: number): string => `${Math.round(100 * share)}%`

/** A fault in words that go on after the name of its part. */
export const FAULT_WORDS: Readonly<Record<FaultKind, (amount: number, other: string) => string>> = {
  holes: (share) => `opens by ${percent(share)} of its circle`,
  corners: (share) => `shows a corner of ${percent(share)} of its circle`,
  doubled: (share) => `shows a line too many, over ${percent(share)} of its circle`,
  opens: (share) => `opens by ${percent(share)} of its circle`,
  folded: (share) => `is turned inside out over ${percent(share)} of its area`,
  overlap: (share) => `lies over itself with ${percent(share)} of its area`,
  lost: (share) => `loses ${percent(share)} of its area`,
  left: (sizes, other) => `comes off ${other} by ${percent(sizes)} of its size`,
  jump: (heights) => `jumps by ${percent(heights)} of the figure's height`,
  fast: (speed) => `moves ${Math.round(10 * speed) / 10} heights of the figure in a second`,
  face: () => 'asks to be looked at',
}

/** Kinds of faults as headings. */
export const FAULT_LABELS: Readonly<Record<FaultKind, string>> = {
  holes: 'Holes',
  corners: 'Corners',
  doubled: 'Doubled lines',
  opens: 'Holes',
  folded: 'Folds',
  overlap: 'Self-overlap',
  lost: 'Lost area',
  left: 'Left behind',
  jump: 'Jumps',
  fast: 'Speed',
  face: 'Faces',
}
