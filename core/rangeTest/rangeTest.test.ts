import { describe, expect, test } from 'vitest'
import { addBone, setLimits } from '../bones/commands'
import { makeSwap } from '../alternates/commands'
import { deletePart, groupParts } from '../parts/commands'
import { addArtwork } from '../puppet/artworkCommands'
import { run } from '../puppet/edit'
import { posePuppet } from '../puppet/evaluate'
import { box, drawingPart } from '../test/puppets'
import { newPuppet } from '../puppet/new'
import type { Puppet } from '../puppet/schema'
import { gradeOf, severityOf } from './grades'
import { goodStretch, mendsFor } from './mends'
import { finishedRun, runKey, withTriedAgain, worseFirst, type RangeFault, type RangeRun, type RangeSample } from './report'
import { rangeRuns, type Run } from './runs'
import { windingsOf } from './windings'

const circle = (x: number, y: number, r: number, way: 1 | -1 = 1): number[] =>
  Array.from({ length: 400 }, (_, k) => (way * k * 2 * Math.PI) / 400).flatMap((a) => [x + r * Math.cos(a), y + r * Math.sin(a)])

describe('windings', () => {
  const box = { minX: -30, minY: -20, maxX: 30, maxY: 20 }

  test('of a disc are its area, once', () => {
    const { once, twice, against } = windingsOf([circle(0, 0, 10)], box)
    expect(once).toBeCloseTo(Math.PI * 100, -1)
    expect([twice, against]).toEqual([0, 0])
  })

  test('of two discs that lie on each other are the lens between them, twice', () => {
    const [r, d] = [12, 10]
    const lens = 2 * r * r * Math.acos(d / (2 * r)) - (d / 2) * Math.sqrt(4 * r * r - d * d)
    const { once, twice } = windingsOf([circle(-d / 2, 0, r), circle(d / 2, 0, r)], box)
    expect(Math.abs(twice - lens) / lens).toBeLessThan(0.02)
    expect(Math.abs(once - (2 * Math.PI * r * r - lens)) / once).toBeLessThan(0.01)
  })

  test('of an eight are one half the one way, the other half against it', () => {
    const eight = Array.from({ length: 400 }, (_, k) => (k * 2 * Math.PI) / 400).flatMap((a) => [
      20 * Math.sin(a),
      16 * Math.sin(a) * Math.cos(a),
    ])
    const { once, against } = windingsOf([eight], box)
    expect(Math.abs(against - once / 2) / once).toBeLessThan(0.02)
  })

  test('of nothing are none', () => {
    expect(windingsOf([], box)).toEqual({ once: 0, twice: 0, against: 0 })
    expect(windingsOf([[0, 0, 1, 0, 2, 0]], { minX: 0, minY: 0, maxX: 2, maxY: 0 }).once).toBe(0)
  })
})

/** An arm of two bones, the elbow limited to one side. */
function arm(): Puppet {
  const bones = [
    { id: 'upper', name: 'Upper arm', parent: null, start: { x: 0, y: 0 }, end: { x: 60, y: 0 } },
    { id: 'fore', name: 'Forearm', parent: 'upper', start: { x: 60, y: 0 }, end: { x: 110, y: 0 } },
  ]
  const made = bones.reduce((p, bone) => run(p, addBone, { ...bone, colour: 1 }), newPuppet('arm', 'Arm'))
  return run(made, setLimits, { bone: 'fore', limits: { min: -10, max: 140 } })
}

describe('what is tried', () => {
  const runs = rangeRuns(arm(), { poses: 5, seed: 3 })
  const named = (id: string): Run => runs.find((one) => one.id === id)!

  test('a bone goes from limit to limit, and without limits some way to either side', () => {
    const at = (id: string): number[] => named(id).poses.map((pose) => pose.at)
    expect([at('bone/fore')[0], at('bone/fore').at(-1)]).toEqual([-10, 140])
    expect([at('bone/upper')[0], at('bone/upper').at(-1)]).toEqual([-60, 60])
    expect(named('bone/fore').poses[3]!.values).toEqual({ 'bone/fore/angle': expect.closeTo(27.5, 6) })
  })

  test('bones that follow each other are tried at all four corners', () => {
    expect(named('pair/fore').poses.map((pose) => Object.values(pose.values))).toEqual([
      [-60, -10],
      [-60, 140],
      [60, -10],
      [60, 140],
    ])
  })

  test('random poses lie within limits and are the same for the same seed', () => {
    const again = rangeRuns(arm(), { poses: 5, seed: 3 })
    expect(again.find(({ id }) => id === 'random')!.poses).toEqual(named('random').poses)
    for (const { values } of named('random').poses) {
      expect(values['bone/fore/angle']).toBeGreaterThanOrEqual(-10)
      expect(values['bone/fore/angle']).toBeLessThanOrEqual(140)
    }
  })

  test('between two poses of a run lies their mixture', () => {
    expect(named('bone/fore').between!(0, 0.5)).toEqual({ 'bone/fore/angle': expect.closeTo(-3.75, 6) })
    expect(named('random').between).toBeNull()
  })

  test('alternates are shown one after the other, by the numbers that they have', () => {
    const puppet = swapPuppet()
    const alternates = rangeRuns(puppet, { poses: 0, seed: 1 }).filter(({ kind }) => kind === 'alternate')
    expect(alternates.map(({ poses }) => poses.length)).toEqual([puppet.parts['mouth']!.children.length])
    for (const [k, { values }] of alternates[0]!.poses.entries()) {
      const frame = posePuppet(puppet, values)
      const shown = puppet.parts['mouth']!.children.filter((id) => frame.shown[frame.rig.parts.index.get(id)!] === 1)
      expect(shown).toEqual([puppet.parts['mouth']!.children[k]])
    }
  })

  test('a puppet without bones and controls has nothing to be tried', () => {
    expect(rangeRuns(newPuppet('n', 'Nothing'), { poses: 5, seed: 1 })).toEqual([])
  })
})

/** A mouth of three alternates of which the first was deleted: numbers stay what they were. */
function swapPuppet(): Puppet {
  const drawings = ['shut', 'open', 'wide'].map((name, k) => box(`${name}-art`, 10 * k, 0, 8, 8))
  const parts = ['shut', 'open', 'wide'].map((name, k) => drawingPart(name, name, drawings[k]!))
  const empty = newPuppet('m', 'Mouth')
  const drawn = run(empty, addArtwork, { parent: empty.root, parts, drawings })
  const swapped = run(run(drawn, groupParts, { parts: parts.map(({ id }) => id), id: 'mouth', name: 'Mouth' }), makeSwap, {
    group: 'mouth',
  })
  return run(swapped, deletePart, { part: 'shut' })
}

const fault = (given: Partial<RangeFault>): RangeFault => ({
  ...{ kind: 'lost', part: null, other: null, joint: null, amount: 0.5, grade: 'look', severity: 2, said: 'Arm loses 50% of its area' },
  ...given,
})
const sample = (at: number, faults: readonly RangeFault[] = []): RangeSample => ({
  ...{ at, said: `${at}°`, values: { 'bone/fore/angle': at }, faults, badness: 0, area: 1, speed: null },
})
const tried = (samples: readonly RangeSample[]): RangeRun =>
  finishedRun(
    rangeRuns(arm(), { poses: 0, seed: 1 }).find(({ id }) => id === 'bone/fore')!,
    '',
    samples,
  )

describe('grades', () => {
  test('grow with the fault, and leave to controls what may be meant', () => {
    expect(['bone', 'bone', 'bone', 'control'].map((kind, k) => gradeOf('folded', [0.005, 0.03, 0.5, 0.5][k]!, kind as 'bone'))).toEqual([
      'good',
      'look',
      'broken',
      'look',
    ])
    expect(gradeOf('lost', 0.9, 'control')).toBe('good')
    expect(severityOf('left', 0.3)).toBeCloseTo(2)
  })

  test('a run is as bad as its worst pose', () => {
    const done = tried([sample(-10), sample(60, [fault({ severity: 1.5 })]), sample(140, [fault({ grade: 'broken', severity: 1.2 })])])
    expect([done.grade, done.worst]).toEqual(['broken', 2])
    expect(tried([sample(-10), sample(140)]).worst).toBe(1)
    expect([{ grade: 'look', severity: 9 } as const, { grade: 'broken', severity: 1 } as const].sort(worseFirst)[0]!.grade).toBe('broken')
  })

  test('a run that was tried again takes the place of what it was', () => {
    const before = { puppet: 'Arm', poses: 3, runs: [tried([sample(0), sample(140, [fault({})])])] }
    const after = { puppet: 'Arm', poses: 1, runs: [tried([sample(0)])] }
    const now = withTriedAgain(before, after, [runKey(before.runs[0]!)])
    expect([now.runs.length, now.poses, now.runs[0]!.grade]).toEqual([1, 1, 'good'])
  })
})

describe('mends', () => {
  test('the good stretch is the one around rest', () => {
    const bad = [fault({})]
    expect(goodStretch([sample(-60, bad), sample(-30), sample(0), sample(30), sample(60, bad), sample(90)], 0)).toEqual({
      from: -30,
      to: 30,
    })
    expect(goodStretch([sample(-60), sample(0, bad), sample(60)], 0)).toBeNull()
    expect(goodStretch([sample(-60), sample(0), sample(60)], 0)).toBeNull()
  })

  test('limits are drawn in where it goes wrong, and only there', () => {
    const puppet = arm()
    const [mend] = mendsFor(puppet, tried([sample(-10), sample(0), sample(100), sample(140, [fault({})])]))
    expect(mend!.label).toBe('Keep Forearm between -10° and 100°')
    const mended = mend!.edits.reduce((p, { command, args }) => run(p, command as never, args as never), puppet)
    expect(mended.bones['fore']!.limits).toEqual({ min: -10, max: 100 })
  })

  test('where all is good there is nothing to mend', () => {
    expect(mendsFor(arm(), tried([sample(-10), sample(140)]))).toEqual([])
  })
})
