/**
 * Ready motions for birds. Degrees for what turns, shares of a leg's length for the trunk and for feet; `body.lean` lowers the front,
 * `nod` lowers head and neck, `lift` raises wings and tail.
 */
import { beat, motion, type Motion, type Terms } from './motion'

const pecking = (down: boolean): Terms => ({
  ...{ 'body.lean': down ? 16 : 10, 'body.down': down ? 0.12 : 0.08, 'neck.nod': down ? 46 : 32, 'head.nod': down ? 24 : 12 },
  ...{ 'jaw.open': down ? 0 : 10, 'tail.lift': down ? 14 : 8 },
})
const flapping = (up: boolean): Terms => ({
  ...{ 'wing.lift': up ? 62 : -6, 'wing.bend': up ? 22 : -18, 'body.down': up ? 0.04 : -0.05, 'body.lean': up ? -3 : 2 },
  ...{ 'neck.nod': up ? -5 : 4, 'tail.lift': up ? -8 : 10, crest: 0.6 },
})
const calling = (open: boolean): Terms => ({
  ...{ 'neck.nod': open ? -12 : -4, 'head.nod': open ? -12 : -4, 'jaw.open': open ? 22 : 2, 'bill.open': open ? 14 : 0 },
  ...{ crest: open ? 1 : 0.4, 'body.lean': open ? -3 : 1, 'tail.lift': open ? 8 : 0, 'mouth.open': open ? 1 : 0 },
})
const preening = (shift: number): Terms => ({
  ...{
    'wing.lift': 20,
    'wing.bend': -10,
    'neck.nod': 26 + shift,
    'head.nod': 30 + shift,
    'jaw.open': 6 + shift,
    lids: 0.6,
    'body.lean': -4,
  },
})

export const BIRDS: readonly Motion[] = [
  motion(
    'bird-peck',
    'Peck',
    2.8,
    beat(0, 'Rest'),
    beat(0.35, 'Looks', { 'neck.nod': -8, 'head.nod': 10, crest: 0.3 }),
    beat(0.75, 'Down', pecking(false)),
    ...[0.95, 1.35, 1.75].flatMap((at) => [beat(at, 'Pecks', pecking(true)), beat(at + 0.2, 'Up', pecking(false))]),
    beat(2.6, 'Rest'),
  ),
  motion(
    'bird-flap',
    'Flap the wings',
    2.8,
    beat(0, 'Rest'),
    beat(0.35, 'Gather', { 'body.down': 0.08, 'body.lean': 5, 'neck.nod': 8, 'wing.lift': -6 }),
    ...[0.65, 1.05, 1.45, 1.85].flatMap((at) => [beat(at, 'Up', flapping(true)), beat(at + 0.2, 'Down', flapping(false))]),
    beat(2.3, 'Folds', { 'wing.lift': 8, 'body.down': 0.02, crest: 0.3 }),
    beat(2.7, 'Rest'),
  ),
  motion(
    'bird-look',
    'Look round',
    3.2,
    beat(0, 'Rest'),
    beat(0.3, 'Eyes first', { 'gaze.x': -0.8, lids: 0.5 }),
    beat(0.5, 'Up', { 'neck.nod': -14, 'head.nod': -10, 'gaze.y': 0.5, crest: 0.8, 'body.lean': -2 }),
    beat(1.2, 'Up', { 'neck.nod': -12, 'head.nod': -8, 'gaze.x': 0.5, crest: 0.6, 'body.lean': -2 }),
    beat(1.45, 'Down', { 'neck.nod': 8, 'head.nod': 16, 'gaze.y': -0.7, lids: 0.4 }),
    beat(2.2, 'Down', { 'neck.nod': 9, 'head.nod': 14, 'gaze.x': -0.5, 'tail.lift': 6 }),
    beat(3, 'Rest'),
  ),
  motion(
    'bird-call',
    'Call',
    2.6,
    beat(0, 'Rest'),
    beat(0.35, 'Breath', { 'neck.nod': 10, 'head.nod': 8, 'body.lean': 3 }),
    ...[0.6, 1.1, 1.6].flatMap((at) => [beat(at, 'Calls', calling(true)), beat(at + 0.25, 'Shuts', calling(false))]),
    beat(2.4, 'Rest'),
  ),
  motion(
    'bird-preen',
    'Preen',
    3.6,
    beat(0, 'Rest'),
    beat(0.6, 'Bends', preening(0)),
    ...[0.95, 1.55, 2.15].flatMap((at) => [beat(at, 'Preens', preening(6)), beat(at + 0.3, 'Preens', preening(-3))]),
    beat(2.9, 'Up', { 'neck.nod': -6, 'wing.lift': 6, crest: 0.5 }),
    beat(3.4, 'Rest'),
  ),
  motion(
    'bird-one-leg',
    'Stand on one leg',
    3.6,
    beat(0, 'Rest'),
    beat(0.4, 'Shifts', { 'body.down': 0.03, 'body.forward': -0.03 }),
    beat(1, 'Up', { 'leg:left.up': 0.42, 'leg:left.step': 0.12, 'neck.nod': 8, 'head.nod': -4, 'tail.lift': 4 }),
    beat(2.4, 'Sleeps', { 'leg:left.up': 0.42, 'leg:left.step': 0.12, 'neck.nod': 18, 'head.nod': 12, lids: 1 }),
    beat(3, 'Wakes', { 'leg:left.up': 0.2, 'leg:left.step': 0.06, 'neck.nod': -4, crest: 0.5 }),
    beat(3.5, 'Rest'),
  ),
  motion(
    'bird-bow',
    'Bow',
    2.4,
    beat(0, 'Rest'),
    beat(0.3, 'Gather', { 'body.lean': -3, 'neck.nod': -10, 'wing.lift': 6, crest: 0.5 }),
    beat(0.8, 'Bow', { 'body.lean': 16, 'body.down': 0.06, 'neck.nod': 24, 'head.nod': 20, 'wing.lift': 24, 'tail.lift': 18, lids: 0.8 }),
    beat(1.5, 'Bow', { 'body.lean': 15, 'body.down': 0.06, 'neck.nod': 22, 'head.nod': 18, 'wing.lift': 20, 'tail.lift': 14, lids: 0.7 }),
    beat(2.2, 'Rest'),
  ),
  motion(
    'bird-idle',
    'Stand and breathe',
    4,
    beat(0, 'Out'),
    beat(1, 'In', { 'body.down': -0.008, 'neck.nod': -2, 'wing.lift': 2, 'tail.lift': 2 }),
    beat(2, 'Out', { 'body.lean': 0.6, 'head.nod': 1 }),
    beat(3, 'In', { 'body.down': -0.008, 'head.nod': -2, 'wing.lift': 2, 'tail.lift': -1 }),
    beat(4, 'Out'),
  ),
]
