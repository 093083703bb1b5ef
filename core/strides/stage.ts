/**
 * Strides in the evaluation: they add to the pose what the body does, and set legs so that feet are where they stand. Where each foot
 * stands was simulated before (walk.ts); nothing walks where nothing is simulated.
 */
import type { BonesFrame, BonesRig } from '../bones/stage'
import type { IdleFrame } from '../idle/stage'
import type { SlotsRig } from '../kernel/slots'
import type { Stage } from '../kernel/stage'
import { loweredBy, moveBody, moveRoots } from './body'
import { placeCarriers, setLeg, shortfall, takeLeg, wantLeg, type LegInHand, newLegInHand } from './legs'
import { compileStrides, type StridesTable, type StrideTable } from './table'
import { LEG_SHOWN, WALK_SHOWN } from './course'
import { carriedBy } from './walk'

export interface StridesRig {
  readonly strides: StridesTable
}

type Needs = BonesRig & StridesRig
type Uses = BonesFrame & IdleFrame & { readonly values: Float64Array }

export interface StridesFrame {
  /** [l] legs of the stride that is set. */
  readonly inHand: readonly LegInHand[]
}

export const stridesStage: Stage<BonesRig & SlotsRig, StridesRig, Uses, StridesFrame> = {
  name: 'strides',
  after: ['slots', 'bones'],
  reads: ['strides', 'constraints', 'targets', 'view', 'parts', 'drawings', 'pictures', 'stage', 'canvas'],
  compile: (puppet, { bones, slots }) => ({ strides: compileStrides(puppet, bones, slots) }),
  buffers: ({ strides: { list } }) => ({
    inHand: Array.from({ length: Math.max(0, ...list.map(({ legs }) => legs.length)) }, newLegInHand),
  }),
  run(rig, frame, _, { simulation }) {
    const { list, shownSize } = rig.strides
    const shown = simulation?.strides
    const walks = shown?.length === shownSize ? shown : null
    for (let k = 0; k < list.length; k++) {
      if (walks) walk(rig, frame, list[k]!, walks, k === 0)
      else if (k === 0) shiftWeight(rig, frame, list[k]!, 0)
    }
  },
}

/** Adds a stride to the values of a pose. */
function walk(rig: Needs, frame: Uses & StridesFrame, table: StrideTable, shown: Float64Array, isFirst: boolean): void {
  const { values, inHand } = frame
  const at = table.shownAt
  const amount = Math.min(1, Math.max(0, values[table.amount]!))
  const grip = amount * shown[at + 2]!
  const gone = amount * shown[at + 3]!
  if (grip === 0 && gone === 0) return isFirst ? shiftWeight(rig, frame, table, 0) : undefined
  const carried = carriedBy(table, values)
  // Of a pose that is all taken over nothing has to be known.
  if (grip < 1) takeLegs(rig, frame, table, gone)
  const height = grip * shown[at + 4]!
  for (let k = 0; k < table.targets.length; k++) {
    values[table.targets[k]!]! += gone
    values[table.targets[k]! + 1]! += height
  }
  for (let k = 0; k < table.loose.length; k++) values[table.loose[k]!]! += gone
  if (grip === 0) {
    moveRoots(table, values, gone, 0)
    return isFirst ? shiftWeight(rig, frame, table, gone) : undefined
  }
  const share = amount * Math.min(1, Math.abs(shown[at + 1]!))
  const idleShift = isFirst ? 1 - grip : 0
  moveRoots(table, values, gone + idleShift * frame.idleShift[0]!, height + loweredBy(table, shown[at]!, share, grip))
  moveBody(table, shown[at]!, shown[at + 1]!, grip, values)
  for (let k = 0; k < table.legs.length; k++) wantLeg(table, k, shown, at + WALK_SHOWN + LEG_SHOWN * k, grip, gone + carried, inHand[k]!)
  setLegs(rig, frame, table, grip)
}

/** Hips go aside over legs that stand as the pose has them; legs that reach for targets do so by themselves. */
function shiftWeight(rig: Needs, frame: Uses & StridesFrame, table: StrideTable, gone: number): void {
  const x = frame.idleShift[0]!
  const y = frame.idleShift[1]!
  if (x === 0 && y === 0) return
  if (gone === 0) takeLegs(rig, frame, table, 0)
  moveRoots(table, frame.values, x, y)
  setLegs(rig, frame, table, 0)
}

function takeLegs(rig: Needs, frame: Uses & StridesFrame, table: StrideTable, gone: number): void {
  placeCarriers(rig, frame, table)
  for (let k = 0; k < table.legs.length; k++) takeLeg(rig, frame, table.legs[k]!, frame.inHand[k]!, gone)
}

function setLegs(rig: Needs, frame: Uses & StridesFrame, table: StrideTable, grip: number): void {
  const { values, inHand } = frame
  placeCarriers(rig, frame, table)
  const short = shortfall(rig, frame, table, inHand)
  if (short !== 0) {
    moveRoots(table, values, 0, short)
    placeCarriers(rig, frame, table)
  }
  for (let k = 0; k < table.legs.length; k++) setLeg(rig, frame, table.legs[k]!, inHand[k]!, grip)
}
