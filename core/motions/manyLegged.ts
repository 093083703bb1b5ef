/**
 * Ready motions for creatures with many legs. Legs step in two groups, `legs:a` and `legs:b`: neighbours and legs that face each other in
 * turn. Shares of a leg's length for the trunk and for feet, degrees for what turns.
 */
import { beat, motion, type Motion, type Terms } from './motion'

const side = (way: number): Terms => ({ 'body.forward': 0.1 * way, 'body.lean': 2 * way })
/** Eyes and claws lag behind what the body does. */
const scuttling = (way: number, moving: 'a' | 'b'): Terms => ({
  ...side(way),
  ...{ 'body.down': -0.04, [`legs:${moving}.up`]: 0.24, [`legs:${moving}.step`]: 0.16 * way, 'arm.lift': 8, 'eye.lift': 4 },
})
const landed = (way: number, moved: 'a' | 'b'): Terms => ({
  ...side(way),
  'body.down': 0.05,
  [`legs:${moved}.step`]: 0.12 * way,
  'eye.lift': -3,
})
const waving = (out: boolean): Terms => ({
  ...{ 'arm:left.lift': out ? 4 : 12, 'arm:left.bend': out ? -32 : 14, 'body.lean': -3, 'eye.lift': out ? 6 : 0, mood: 0.8 },
  ...{ 'arm:right.lift': 4, 'body.down': out ? 0 : 0.02 },
})
const drumming = (group: 'a' | 'b'): Terms => ({ [`legs:${group}.up`]: 0.14, 'body.down': 0.03, 'eye.lift': group === 'a' ? 4 : -4 })

export const MANY_LEGGED_CREATURES: readonly Motion[] = [
  motion(
    'crawler-scuttle',
    'Scuttle aside and back',
    3.2,
    beat(0, 'Stands'),
    beat(0.2, 'Gather', { 'body.down': 0.1, 'eye.lift': -6 }),
    beat(0.45, 'Step', scuttling(1, 'a')),
    beat(0.65, 'Down', landed(1, 'a')),
    beat(0.9, 'Step', scuttling(1, 'b')),
    beat(1.1, 'Down', { ...landed(1, 'b'), 'legs:a.step': 0.12 }),
    beat(1.5, 'Looks', { ...side(1), 'legs.step': 0.12, 'eye.lift': 8 }),
    beat(1.8, 'Step', { ...scuttling(-1, 'a'), 'legs:b.step': 0.1 }),
    beat(2, 'Down', { ...landed(-1, 'a'), 'legs:b.step': 0.1 }),
    beat(2.25, 'Step', scuttling(-1, 'b')),
    beat(2.5, 'Down', { 'body.down': 0.05 }),
    beat(3, 'Stands'),
  ),
  motion(
    'crawler-wave',
    'Wave a claw',
    3,
    beat(0, 'Stands'),
    beat(0.35, 'Gather', { 'body.down': 0.06, 'arm:left.lift': -14, 'eye.lift': -4 }),
    ...[0.75, 1.35].flatMap((at) => [beat(at, 'Out', waving(true)), beat(at + 0.3, 'In', waving(false))]),
    beat(1.95, 'Out', waving(true)),
    beat(2.7, 'Stands'),
  ),
  motion(
    'crawler-threaten',
    'Threaten',
    2.6,
    beat(0, 'Stands'),
    beat(0.3, 'Sinks', { 'body.down': 0.16, 'arm.lift': -20, 'eye.lift': -10 }),
    beat(0.55, 'Up', { 'body.down': -0.16, 'arm.lift': 14, 'arm.bend': -22, 'eye.lift': 12, brows: -1, 'feeler.lift': 20 }),
    beat(0.75, 'Holds', { 'body.down': -0.12, 'arm.lift': 12, 'arm.bend': 16, 'eye.lift': 8, brows: -1, 'feeler.lift': 14 }),
    beat(1.1, 'Snaps', { 'body.down': -0.12, 'arm.lift': 12, 'arm.bend': -18, 'eye.lift': 10, brows: -1 }),
    beat(1.4, 'Snaps', { 'body.down': -0.11, 'arm.lift': 12, 'arm.bend': 16, 'eye.lift': 8, brows: -1 }),
    beat(2.3, 'Stands'),
  ),
  motion(
    'crawler-drum',
    'Drum with the legs',
    2.4,
    beat(0, 'Stands'),
    ...[0.2, 0.6, 1, 1.4].flatMap((at) => [beat(at, 'One', drumming('a')), beat(at + 0.2, 'Two', drumming('b'))]),
    beat(2, 'Stands', { 'body.down': 0.03 }),
    beat(2.4, 'Stands'),
  ),
  motion(
    'crawler-duck',
    'Duck and peep',
    3.2,
    beat(0, 'Stands'),
    beat(0.18, 'Starts', { 'body.down': -0.08, 'eye.lift': 14, 'arm.lift': 16, lids: -0.4 }),
    beat(0.45, 'Ducks', { 'body.down': 0.34, 'arm.lift': -24, 'arm.bend': 30, 'eye.lift': -22, lids: 0.8 }),
    beat(1.4, 'Ducks', { 'body.down': 0.33, 'arm.lift': -24, 'arm.bend': 28, 'eye.lift': -22, lids: 0.7 }),
    beat(1.8, 'Peeps', { 'body.down': 0.24, 'arm.lift': -18, 'arm.bend': 20, 'eye.lift': 10, 'gaze.x': -0.7 }),
    beat(2.2, 'Peeps', { 'body.down': 0.24, 'arm.lift': -18, 'arm.bend': 20, 'eye.lift': 10, 'gaze.x': 0.7 }),
    beat(3, 'Stands'),
  ),
  motion(
    'crawler-hop',
    'Hop',
    1.8,
    beat(0, 'Stands'),
    beat(0.35, 'Squash', { 'body.down': 0.3, 'arm.lift': -18, 'eye.lift': -8 }),
    beat(0.55, 'Stretch', { 'body.down': -0.22, 'arm.lift': 14, 'eye.lift': 10 }),
    beat(0.75, 'Top', { 'body.down': -0.5, 'legs.up': 0.3, 'arm.lift': 22, 'eye.lift': 14 }),
    beat(0.95, 'Down', { 'body.down': -0.14, 'legs.up': 0.02, 'arm.lift': 16 }),
    beat(1.1, 'Squash', { 'body.down': 0.26, 'arm.lift': -10, 'eye.lift': -10 }),
    beat(1.35, 'Up', { 'body.down': -0.03, 'eye.lift': 4 }),
    beat(1.65, 'Stands'),
  ),
  motion(
    'crawler-idle',
    'Stand and breathe',
    4,
    beat(0, 'Out'),
    beat(1, 'In', { 'body.down': -0.02, 'arm.lift': 3, 'eye.lift': 2, 'feeler.lift': 3 }),
    beat(2, 'Out', { 'body.lean': 0.7, 'eye.lift': -1, 'arm.bend': 3 }),
    beat(3, 'In', { 'body.down': -0.02, 'arm.lift': 2, 'eye.lift': 2, 'body.lean': -0.5 }),
    beat(4, 'Out'),
  ),
]
