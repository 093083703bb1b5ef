/** Characters of movement that springs begin with, from stiff to floppy. */
import type { SpringNature } from './records'

export interface SpringCharacter {
  readonly id: string
  readonly name: string
  /** What moves like that. */
  readonly like: string
  readonly nature: SpringNature
}

const nature = (given: Partial<SpringNature>): SpringNature => ({
  ...{ throw: 1, tempo: 2, settle: 1, root: 0.35, bend: 1, gravity: 0, wind: 1, drag: 0.1, stretch: 0 },
  ...given,
})

/** Characters of movement, from stiff to floppy. */
export const SPRING_CHARACTERS: readonly SpringCharacter[] = [
  {
    id: 'stiff',
    name: 'Stiff',
    like: 'Skis, sticks, antennae',
    nature: nature({ throw: 0.4, tempo: 8, settle: 0.35, root: 0.1, wind: 0.1 }),
  },
  {
    id: 'springy',
    name: 'Springy',
    like: 'Ends of a ski, a spring',
    nature: nature({ throw: 0.9, tempo: 6.5, settle: 0.9, root: 0.15, wind: 0.2 }),
  },
  {
    id: 'tight',
    name: 'Tight',
    like: 'Short ears, bristles, a crest',
    nature: nature({ throw: 0.7, tempo: 5, settle: 0.5, root: 0.25, wind: 0.5 }),
  },
  {
    id: 'bouncy',
    name: 'Bouncy',
    like: 'A bobble, a belly, curls',
    nature: nature({ throw: 1.2, tempo: 3.5, settle: 1.1, stretch: 0.4, wind: 0.4 }),
  },
  { id: 'hair', name: 'Hair', like: 'Locks and plaits', nature: nature({ throw: 1, tempo: 2.4, settle: 0.9, gravity: 0.3, bend: 1.3 }) },
  {
    id: 'ears',
    name: 'Long ears',
    like: 'Ears that hang, jowls',
    nature: nature({ throw: 1.1, tempo: 2, settle: 0.8, gravity: 0.5, root: 0.25 }),
  },
  {
    id: 'tail',
    name: 'Tail',
    like: 'Tails, trunks, long necks',
    nature: nature({ throw: 1, tempo: 1.5, settle: 1.4, root: 0.2, bend: 1.6, wind: 0.3 }),
  },
  {
    id: 'cloth',
    name: 'Cloth',
    like: 'Scarves, coat tails, flags',
    nature: nature({ throw: 1.1, tempo: 1.4, settle: 0.9, gravity: 0.6, wind: 1.6, drag: 0.5 }),
  },
  {
    id: 'heavy',
    name: 'Heavy',
    like: 'Bags, keys, a bell',
    nature: nature({ throw: 0.8, tempo: 1.1, settle: 1.6, gravity: 1, wind: 0.1, root: 0.6 }),
  },
  {
    id: 'rope',
    name: 'Rope',
    like: 'Ropes, strings, reins',
    nature: nature({ throw: 1.4, tempo: 1, settle: 2, gravity: 1, root: 0.5, wind: 0.8 }),
  },
  {
    id: 'floppy',
    name: 'Floppy',
    like: 'What has no bones at all',
    nature: nature({ throw: 1.8, tempo: 0.9, settle: 2.4, gravity: 0.6, root: 0.6, stretch: 0.2 }),
  },
  {
    id: 'seaweed',
    name: 'Under water',
    like: 'Weed, fins, floating hair',
    nature: nature({ throw: 1.5, tempo: 0.4, settle: 2.2, gravity: -0.2, drag: 1, wind: 1.5 }),
  },
]

/** The character with an id. Throws where there is none: that is a fault of the program. */
export function characterOf(id: string): SpringCharacter {
  const found = SPRING_CHARACTERS.find((character) => character.id === id)
  if (!found) throw new Error(`There is no character of movement "${id}".`)
  return found
}
