/** All ready motions, by the kind of body that they are for. */
import { BIRDS } from './birds'
import type { BodyKind } from './creature'
import { FOUR_LEGGED_ANIMALS } from './fourLegged'
import { MANY_LEGGED_CREATURES } from './manyLegged'
import type { Motion } from './motion'
import { PEOPLE } from './people'

export interface MotionSet {
  readonly kind: BodyKind
  readonly label: string
  readonly motions: readonly Motion[]
}

export const READY_MOTIONS: readonly MotionSet[] = [
  { kind: 'person', label: 'People', motions: PEOPLE },
  { kind: 'four-legged', label: 'Four-legged animals', motions: FOUR_LEGGED_ANIMALS },
  { kind: 'bird', label: 'Birds', motions: BIRDS },
  { kind: 'many-legged', label: 'Many-legged creatures', motions: MANY_LEGGED_CREATURES },
]

/** The kind of body that a motion is for; a person where it is in no list. */
export const kindOf = (motion: Motion): BodyKind => READY_MOTIONS.find(({ motions }) => motions.includes(motion))?.kind ?? 'person'
