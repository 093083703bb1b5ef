/**
 * Ready motions for four-legged animals. Degrees for what turns, shares of a leg's length for the trunk and for feet; `body.lean` lowers
 * the front, `nod` lowers head and neck. Feet stay where they stand unless something is said of them.
 */
import { beat, motion, type Motion, type Terms } from './motion'

const sniffing = (down: boolean): Terms => ({
  ...{ 'body.lean': 7, 'body.down': 0.06, 'neck.nod': 34, 'head.nod': down ? 20 : 8, 'jaw.open': down ? 0 : 4 },
  'tail.lift': down ? 6 : 14,
})
const barking = (out: boolean): Terms => ({
  ...{ 'body.lean': out ? -3 : 4, 'body.down': out ? 0 : 0.06, 'body.forward': out ? 0.06 : -0.04 },
  ...{
    'neck.nod': out ? -14 : 6,
    'head.nod': out ? -12 : 8,
    'jaw.open': out ? 24 : 2,
    'mouth.open': out ? 1 : 0,
    'tail.lift': out ? 24 : 8,
  },
})
const wagging = (up: boolean): Terms => ({
  ...{ 'tail.lift': up ? 42 : 8, 'tail.bend': up ? 18 : -14, 'body.lean': up ? 1 : -1, 'head.nod': up ? -6 : -2, 'neck.nod': -6 },
  ...{ 'ear.lift': up ? 6 : -2, mood: 0.9 },
})
const bowed: Terms = { 'body.lean': 15, 'body.down': 0.2, 'front.step': 0.3, 'neck.nod': -12, 'head.nod': -4, 'tail.lift': 40 }
const sitting: Terms = { 'body.lean': -22, 'body.down': 0.32, 'body.forward': 0.06, 'hind.step': 0.25, 'neck.nod': 12, 'head.nod': 10 }
const howling = (up: number): Terms => ({
  ...{ 'body.lean': -5, 'neck.nod': -28 - up, 'head.nod': -30 - up, 'jaw.open': 10 + up, 'mouth.open': 0.8, lids: 1, 'tail.lift': -14 },
})

export const FOUR_LEGGED_ANIMALS: readonly Motion[] = [
  motion(
    'animal-look',
    'Look up and listen',
    2.8,
    beat(0, 'Rest'),
    beat(0.25, 'Gather', { 'neck.nod': 8, 'head.nod': 4, 'ear.lift': -6, lids: 0.6 }),
    beat(0.6, 'Up', { 'neck.nod': -20, 'head.nod': -8, 'ear.lift': 16, 'tail.lift': 16, brows: 0.8, 'body.lean': -2 }),
    beat(1.2, 'Listens', { 'neck.nod': -16, 'head.nod': -2, 'ear.lift': 12, 'tail.lift': 10, brows: 0.6, 'body.lean': -2 }),
    beat(1.9, 'Listens', { 'neck.nod': -17, 'head.nod': 6, 'ear.lift': 14, 'tail.lift': 12, brows: 0.6, 'body.lean': -2 }),
    beat(2.6, 'Rest'),
  ),
  motion(
    'animal-sniff',
    'Sniff the ground',
    3.4,
    beat(0, 'Rest'),
    beat(0.5, 'Down', sniffing(true)),
    ...[0.8, 1.2, 1.6, 2].flatMap((at) => [beat(at, 'Sniffs', sniffing(false)), beat(at + 0.2, 'Sniffs', sniffing(true))]),
    beat(2.6, 'Up', { 'neck.nod': -8, 'head.nod': -6, 'ear.lift': 10, brows: 0.4 }),
    beat(3.2, 'Rest'),
  ),
  motion(
    'animal-bark',
    'Bark',
    2.2,
    beat(0, 'Rest'),
    ...[0.3, 0.8, 1.3].flatMap((at) => [beat(at, 'Gather', barking(false)), beat(at + 0.16, 'Bark', barking(true))]),
    beat(2, 'Rest'),
  ),
  motion(
    'animal-wag',
    'Wag the tail',
    2.4,
    beat(0, 'Rest'),
    ...[0.25, 0.65, 1.05, 1.45].flatMap((at) => [beat(at, 'Up', wagging(true)), beat(at + 0.2, 'Down', wagging(false))]),
    beat(2.2, 'Rest'),
  ),
  motion(
    'animal-bow',
    'Bow to play',
    2.8,
    beat(0, 'Rest'),
    beat(0.3, 'Gather', { 'body.lean': -4, 'neck.nod': -8, 'front.up': 0.04 }),
    beat(0.7, 'Bow', bowed),
    beat(1, 'Bow', { ...bowed, 'tail.lift': 12 }),
    beat(1.3, 'Bow', { ...bowed, 'head.nod': -12 }),
    beat(1.6, 'Bow', { ...bowed, 'tail.lift': 12 }),
    beat(1.85, 'Up', { 'body.lean': -6, 'body.down': -0.02, 'neck.nod': -14, 'tail.lift': 30 }),
    beat(2.5, 'Rest'),
  ),
  motion(
    'animal-sit',
    'Sit down',
    2.4,
    beat(0, 'Rest'),
    beat(0.4, 'Shifts', { 'body.down': 0.05, 'body.lean': 3, 'head.nod': 6 }),
    beat(1, 'Down', { ...sitting, 'body.down': 0.36 }),
    beat(1.25, 'Sits', sitting),
    beat(2.4, 'Sits', { ...sitting, 'tail.lift': 10 }),
  ),
  motion(
    'animal-howl',
    'Howl',
    3.4,
    beat(0, 'Rest'),
    beat(0.5, 'Breath', { 'body.lean': 3, 'neck.nod': 10, 'head.nod': 10, 'body.down': 0.04 }),
    beat(1, 'Howls', howling(0)),
    beat(1.6, 'Howls', howling(6)),
    beat(2.2, 'Howls', howling(2)),
    beat(2.7, 'Down', { 'neck.nod': 4, 'head.nod': 6, lids: 0.4 }),
    beat(3.2, 'Rest'),
  ),
  motion(
    'animal-steps',
    'Steps on the spot',
    2,
    ...[0, 1].flatMap((at) => [
      beat(at, 'Stands', { 'body.down': 0.02 }),
      beat(at + 0.25, 'Up', { 'legs:a.up': 0.22, 'legs:a.step': 0.06, 'head.nod': 3, 'tail.lift': 6 }),
      beat(at + 0.5, 'Stands', { 'body.down': 0.02 }),
      beat(at + 0.75, 'Up', { 'legs:b.up': 0.22, 'legs:b.step': 0.06, 'head.nod': 3, 'tail.lift': -4 }),
    ]),
    beat(2, 'Stands', { 'body.down': 0.02 }),
  ),
  motion(
    'animal-idle',
    'Stand and breathe',
    4,
    beat(0, 'Out'),
    beat(1, 'In', { 'body.down': -0.012, 'head.nod': -2, 'tail.lift': 5, 'ear.lift': 2 }),
    beat(2, 'Out', { 'body.lean': 0.6, 'head.nod': 1, 'tail.lift': -2 }),
    beat(3, 'In', { 'body.down': -0.012, 'neck.nod': -1, 'tail.lift': 4 }),
    beat(4, 'Out'),
  ),
]
