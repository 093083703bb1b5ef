/** Usual characters of curves at keys, as handles. */
import { z } from 'zod'
import { nth } from '../kernel/sure'
import type { Key, KeyHandle, KeyHandles } from './records'

/** Comes slowly, leaves slowly, both, lingers long on both sides, or comes fast and stops at once. */
export const Ease = z.enum(['in', 'out', 'both', 'strong', 'snap'])
export type Ease = z.infer<typeof Ease>

/** Shares of the time to the neighbour for which a handle stays level. */
const SLOW = 0.42
const STRONG = 0.75
const THIRD = 1 / 3
/** Where the handle of a snap lies: a little before the key in time, and most of the way away in value. */
const SNAP = { time: 0.08, value: 0.7 }

/** Handles of a key among others in order of time; a side without a neighbour is level. */
export function easedHandles(keys: readonly Key[], at: number, ease: Ease): KeyHandles {
  const key = nth(keys, at)
  const [before, after] = [keys[at - 1], keys[at + 1]]
  const level = (other: Key | undefined, share: number): KeyHandle => [other ? share * Math.abs(other.time - key.time) : 0, 0]
  const straight = (other: Key | undefined): KeyHandle =>
    other ? [THIRD * Math.abs(other.time - key.time), THIRD * (other.value - key.value)] : [0, 0]
  const sharp = (other: Key | undefined): KeyHandle =>
    other ? [SNAP.time * Math.abs(other.time - key.time), SNAP.value * (other.value - key.value)] : [0, 0]
  const handles: Readonly<Record<Ease, [KeyHandle, KeyHandle]>> = {
    in: [level(before, SLOW), straight(after)],
    out: [straight(before), level(after, SLOW)],
    both: [level(before, SLOW), level(after, SLOW)],
    strong: [level(before, STRONG), level(after, STRONG)],
    snap: [sharp(before), level(after, SLOW)],
  }
  const [arrive, leave] = handles[ease]
  return { arrive, leave, aligned: false }
}
