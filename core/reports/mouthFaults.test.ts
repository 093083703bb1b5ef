/** What "Check all" says of mouths: nothing of those that are built, and each fault of those that are spoiled. */
import { describe, expect, test } from 'vitest'
import type { Change, Response } from '../responses/records'
import type { Puppet } from '../puppet/schema'
import { compile } from '../puppet/compile'
import { poseRig } from '../puppet/evaluate'
import { heldSound } from '../playing/moods'
import { boardOf } from '../face/expressions'
import { VISEMES } from '../speech/visemes'
import { built, MOUTHS } from '../test/mouths'
import { mouthLooker, type MouthFault } from './mouthFaults'

function faults(puppet: Puppet, values: Readonly<Record<string, number>>, isClosed = false): MouthFault[] {
  const rig = compile(puppet)
  const rest = poseRig(rig, {})
  return mouthLooker(puppet, rest)!(poseRig(rig, values), isClosed)
}

const OPEN = { 'control/m-open/value': 1 }

/** The puppet with the changes of the opening done otherwise. */
const spoiled = (puppet: Puppet, spoil: (changes: readonly Change[]) => Change[]): Puppet => ({
  ...puppet,
  responses: puppet.responses.map((r): Response =>
    r.id === 'm-open-answer' ? { ...r, stops: r.stops.map((s) => ({ ...s, changes: spoil(s.changes) })) } : r,
  ),
})

const points = (spoil: (part: string, by: readonly number[]) => readonly number[] | null) => (changes: readonly Change[]) =>
  changes.flatMap((c): Change[] => {
    if (c.kind !== 'points') return [c]
    const by = spoil(c.part, c.by)
    return by ? [{ ...c, by: [...by] }] : []
  })

describe.each(MOUTHS)('a built mouth: $name', (face) => {
  test('has no fault in any expression and mouth shape', () => {
    const puppet = built(face)
    for (const pose of boardOf(puppet).moods) expect({ [pose.name]: faults(puppet, pose.values) }).toEqual({ [pose.name]: [] })
    for (const viseme of VISEMES)
      expect({ [viseme]: faults(puppet, heldSound(puppet, viseme), viseme === 'mbp') }).toEqual({ [viseme]: [] })
  })
})

describe('a spoiled mouth', () => {
  const puppet = built(MOUTHS[0]!)
  const openOval = built(MOUTHS[1]!)

  test('that opens to a V has a kink', () => {
    const straight = points((_, by) => by.map((v, k) => (k % 6 < 2 ? v : 0)))
    expect(faults(spoiled(puppet, straight), OPEN)).toContainEqual({ kind: 'kink', part: 'lips' })
  })

  test('that opens too far leaves the face', () => {
    const far = points((part, by) => (part === 'face' ? null : by.map((v) => 3 * v)))
    expect(faults(spoiled(puppet, far), OPEN)).toContainEqual({ kind: 'leaves-face', part: 'lips', face: 'face' })
  })

  test('that is drawn open and does not close says so where lips have to meet, and only there', () => {
    expect(faults(openOval, {}, true)).toContainEqual({ kind: 'stays-open', part: 'lips' })
    expect(faults(openOval, {})).toEqual([])
  })

  test('has teeth that leave the lip', () => {
    const dropped = points((part, by) => (part === 'teeth' ? by.map((v, k) => (k % 6 === 1 ? v + 30 : v)) : by))
    expect(faults(spoiled(openOval, dropped), OPEN)).toContainEqual({ kind: 'teeth-apart', part: 'teeth' })
  })

  test('has a line that stays behind', () => {
    const alone = points((part, by) => (part === 'm-line' ? null : by))
    expect(faults(spoiled(puppet, alone), OPEN)).toContainEqual({ kind: 'line-apart', part: 'm-line', from: 'lips' })
  })

  test('without a mouth there is nothing to look at', () => {
    const bare = MOUTHS[0]!.puppet
    expect(mouthLooker(bare, poseRig(compile(bare), {}))).toBeNull()
  })
})
