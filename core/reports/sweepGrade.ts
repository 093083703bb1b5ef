/** What the faults of a joint come to: how large the worst of them is, and whether anybody would see it. */
import type { Faults } from './sweep'

export type FaultKind = keyof Faults

export const FAULT_KINDS: readonly FaultKind[] = ['holes', 'corners', 'doubled']

/** Nothing to do, worth a look, or what everybody sees. */
export type Grade = 'good' | 'look' | 'broken'

/** Grades as people read them. */
export const GRADE_NAMES: Readonly<Record<Grade, string>> = { good: 'good', look: 'look at it', broken: 'broken' }

const GRADES: readonly Grade[] = ['good', 'look', 'broken']

/** Up to this share of the circle's diameter a fault is good, from that share on the joint is broken. */
export const GOOD_BELOW = 0.06
export const BROKEN_FROM = 0.2
/** Smaller than this nobody sees it, canvas px. */
const UNSEEN = 1.5

/** The largest fault of a kind over all angles. */
export interface WorstFault {
  readonly kind: FaultKind
  /** Degrees at which it shows. */
  readonly angle: number
  /** Canvas px: the diameter of a hole of that area, the length of a corner or of a line. */
  readonly across: number
  /** `across` as a share of the diameter of the joint's circle. */
  readonly share: number
  readonly grade: Grade
}

/** How the pictures of a joint were taken. */
export interface SweepScale {
  /** Pixels of the pictures to a canvas px. */
  readonly scale: number
  /** Width of the lines, px of the pictures. */
  readonly line: number
  /** Of the joint, canvas px. */
  readonly radius: number
  /** Lines inside of the joint at rest, px of the pictures: they are drawn so, and no fault of turning. */
  readonly drawn: number
}

/** The length of a fault of so many pixels, canvas px. */
function acrossOf(kind: FaultKind, pixels: number, { scale, line, drawn }: SweepScale): number {
  if (kind === 'holes') return (2 * Math.sqrt(pixels / Math.PI)) / scale
  return (kind === 'corners' ? pixels : Math.max(0, pixels - drawn) / Math.max(1, line)) / scale
}

function gradeOf(kind: FaultKind, across: number, share: number): Grade {
  if (across < UNSEEN || share < GOOD_BELOW) return 'good'
  // A line too many may be how somebody draws; background and spikes never are.
  return share >= BROKEN_FROM && kind !== 'doubled' ? 'broken' : 'look'
}

/** The largest fault of each kind, in the order of FAULT_KINDS. Of equal ones that which is farther from rest. */
export function worstFaults(angles: readonly (Faults & { readonly angle: number })[], scale: SweepScale): WorstFault[] {
  return FAULT_KINDS.map((kind) => {
    const worst = angles.reduce((a, b) => (b[kind] > a[kind] || (b[kind] === a[kind] && Math.abs(b.angle) > Math.abs(a.angle)) ? b : a))
    const across = Math.round(10 * acrossOf(kind, worst[kind], scale)) / 10
    const share = across / Math.max(2 * scale.radius, 1e-6)
    return { kind, angle: worst.angle, across, share, grade: gradeOf(kind, across, share) }
  })
}

/** The fault that decides: of the worst grade the largest. */
export const decidingFault = (faults: readonly WorstFault[]): WorstFault =>
  faults.reduce((a, b) => {
    const by = GRADES.indexOf(b.grade) - GRADES.indexOf(a.grade)
    return by > 0 || (by === 0 && b.share > a.share) ? b : a
  })

const SAID: Readonly<Record<FaultKind, string>> = {
  holes: 'opens',
  corners: 'shows a corner of',
  doubled: 'shows a line too many, over',
}

/** A fault in words that go on after the joint's name: what, how large, and at which angle. */
export const faultSaid = ({ kind, across, share, angle }: WorstFault): string =>
  `${SAID[kind]} ${across} px (${Math.round(100 * share)}% of its circle) at ${Math.round(angle)}°`
