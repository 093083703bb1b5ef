/** Gaits that strides begin with: when which foot comes down, and how the body goes, in lengths of a leg and degrees. */
import type { StrideNature } from './records'

/** Numbers of a gait; lengths are shares of that of a leg. */
export type GaitNature = StrideNature

export interface Gait {
  readonly id: string
  readonly name: string
  /** For how many legs it is; others take what fits of it. */
  readonly legs: number
  /** When each comes down: left and right in turn, from the front to the back. */
  readonly at: readonly number[]
  readonly nature: GaitNature
}

const nature = (given: Partial<GaitNature>): GaitNature => ({
  ...{ length: 1.1, lift: 0.16, duty: 0.6, tempo: 0.95, bob: 0.025, sway: 0.035, hipTurn: 2.5, chestTurn: 3, lean: 1 },
  ...{ swing: 1, roll: 14, level: 0.7 },
  ...given,
})

const ALTERNATE = [0, 0.5]

/** Gaits for one leg to eight. */
export const GAITS: readonly Gait[] = [
  {
    id: 'hop-one',
    name: 'Hop',
    legs: 1,
    at: [0],
    nature: nature({ length: 0.8, lift: 0.14, duty: 0.45, tempo: 1.5, bob: -0.12, sway: 0, lean: 3, roll: 6 }),
  },
  { id: 'walk', name: 'Walk', legs: 2, at: ALTERNATE, nature: nature({}) },
  {
    id: 'sneak',
    name: 'Sneak',
    legs: 2,
    at: ALTERNATE,
    nature: nature({ length: 1, lift: 0.3, duty: 0.7, tempo: 0.5, bob: -0.06, lean: 9, swing: 0.7, roll: 4, chestTurn: 4, sway: 0.05 }),
  },
  {
    id: 'march',
    name: 'March',
    legs: 2,
    at: ALTERNATE,
    nature: nature({ length: 0.95, lift: 0.36, duty: 0.58, tempo: 1, bob: 0.03, lean: -2, swing: 1.5, roll: 8, hipTurn: 1.5, level: 1 }),
  },
  {
    id: 'run',
    name: 'Run',
    legs: 2,
    at: ALTERNATE,
    nature: nature({
      length: 1.9,
      lift: 0.42,
      duty: 0.36,
      tempo: 1.5,
      bob: -0.07,
      lean: 8,
      swing: 1.7,
      roll: 10,
      chestTurn: 6,
      sway: 0.015,
    }),
  },
  {
    id: 'skip',
    name: 'Skip',
    legs: 2,
    at: [0, 0.3],
    nature: nature({ length: 1.6, lift: 0.34, duty: 0.42, tempo: 1.15, bob: -0.13, lean: 2, swing: 1.3, roll: 10 }),
  },
  // Legs in fours: left front, right front, left hind, right hind.
  {
    id: 'walk-four',
    name: 'Walk',
    legs: 4,
    at: [0.25, 0.75, 0, 0.5],
    nature: nature({ length: 0.95, lift: 0.16, duty: 0.66, tempo: 0.85, bob: 0.012, hipTurn: 1.5, chestTurn: 0, lean: 0, roll: 10 }),
  },
  {
    id: 'trot',
    name: 'Trot',
    legs: 4,
    at: [0.5, 0, 0, 0.5],
    nature: nature({ length: 1.3, lift: 0.24, duty: 0.44, tempo: 1.4, bob: -0.05, hipTurn: 0.5, chestTurn: 0, lean: 0, roll: 10 }),
  },
  {
    id: 'gallop',
    name: 'Gallop',
    legs: 4,
    at: [0.45, 0.57, 0, 0.12],
    nature: nature({ length: 2, lift: 0.34, duty: 0.3, tempo: 1.9, bob: -0.1, hipTurn: 6, chestTurn: -5, lean: 0, roll: 12 }),
  },
  {
    id: 'amble',
    name: 'Amble',
    legs: 4,
    at: [0.2, 0.7, 0, 0.5],
    nature: nature({ length: 1.1, lift: 0.15, duty: 0.55, tempo: 1.1, bob: 0.01, hipTurn: 2, chestTurn: 0, lean: 0, roll: 8 }),
  },
  {
    id: 'tripod',
    name: 'Three and three',
    legs: 6,
    at: [0, 0.5, 0.5, 0, 0, 0.5],
    nature: nature({ length: 0.55, lift: 0.22, duty: 0.56, tempo: 1.5, bob: 0.02, hipTurn: 1, chestTurn: 0, lean: 0, roll: 0 }),
  },
  {
    id: 'ripple',
    name: 'One after the other',
    legs: 6,
    at: [2 / 3, 1 / 6, 1 / 3, 5 / 6, 0, 0.5],
    nature: nature({ length: 0.5, lift: 0.2, duty: 0.78, tempo: 0.8, bob: 0.008, hipTurn: 0.6, chestTurn: 0, lean: 0, roll: 0 }),
  },
  {
    id: 'four-and-four',
    name: 'Four and four',
    legs: 8,
    at: [0, 0.5, 0.5, 0, 0, 0.5, 0.5, 0],
    nature: nature({ length: 0.5, lift: 0.2, duty: 0.56, tempo: 1.6, bob: 0.015, hipTurn: 0.8, chestTurn: 0, lean: 0, roll: 0 }),
  },
  {
    id: 'ripple-eight',
    name: 'One after the other',
    legs: 8,
    at: [0.75, 0.25, 0.5, 0, 0.25, 0.75, 0, 0.5],
    nature: nature({ length: 0.45, lift: 0.18, duty: 0.74, tempo: 0.9, bob: 0.006, hipTurn: 0.5, chestTurn: 0, lean: 0, roll: 0 }),
  },
  {
    id: 'slither',
    name: 'Slither',
    legs: 0,
    at: [],
    nature: nature({ length: 1.2, lift: 0, duty: 0.5, tempo: 0.7, bob: 0, sway: 0, hipTurn: 0, chestTurn: 0, lean: 0, roll: 0 }),
  },
]

/** Gaits for so many legs: those made for them, else for the next number below; all legs after the last step as those before. */
export function gaitsFor(legs: number): readonly Gait[] {
  const most = Math.max(...GAITS.map((gait) => gait.legs).filter((n) => n <= legs))
  return GAITS.filter((gait) => gait.legs === most)
}

/** When each of so many legs comes down in a gait. What it says nothing of steps as those before it, in turn. */
export function phasesOf({ at }: Pick<Gait, 'at'>, legs: number): number[] {
  return Array.from(
    { length: legs },
    (_, k) => at[k] ?? (at.length === 0 ? 0 : ((at[k % at.length] ?? 0) + 0.5 * Math.floor(k / at.length)) % 1),
  )
}

/** The gait with an id. Throws where there is none: that is a fault of the program. */
export function gaitOf(id: string): Gait {
  const found = GAITS.find((gait) => gait.id === id)
  if (!found) throw new Error(`There is no gait "${id}".`)
  return found
}

/** Numbers of a gait for a leg of a length, px. */
export function natureOf({ nature: given }: Gait, leg: number): StrideNature {
  const px = (share: number): number => Math.round(10 * share * leg) / 10
  return { ...given, length: px(given.length), lift: px(given.lift), bob: px(given.bob), sway: px(given.sway) }
}
