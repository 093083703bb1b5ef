/** Mouths that strangers draw: wide open, closed, a mere line, an outline apart with a moustache over it. */
import { describe, expect, test } from 'vitest'
import type { Path } from '../../artwork/records'
import { flatten } from '../../maths/geometry/path'
import { areaInside, dense, isWithin } from '../../maths/geometry/polyline'
import { compile } from '../../puppet/compile'
import { poseRig } from '../../puppet/evaluate'
import { mouthLooker, turnsOf } from '../../reports/mouthFaults'
import { heldSound } from '../../playing/moods'
import { applyEdits } from '../../puppet/edit'
import { polygonPath } from '../../maths/geometry/path'
import { built, caseOf, drawn, FACE, MOUTHS, shownPath, type MouthCase } from '../../test/mouths'
import { mouthEdits } from './build'
import { builtMouth, foundMouth } from './find'

/** Area inside of a closed path, px². */
const areaOf = (path: Path): number => areaInside(flatten(path, 0.05))

const corners = ({ anchors, ids }: Path): number[] => {
  const xs = ids.map((_, k) => anchors[2 * k]!)
  return [xs.indexOf(Math.min(...xs)), xs.indexOf(Math.max(...xs))]
}

const middleDepths = (path: Path): number[] => {
  const line = dense(flatten(path, 0.05), 1)
  const xs = line.filter((_, k) => k % 2 === 0)
  const middle = (Math.min(...xs) + Math.max(...xs)) / 2
  return xs.flatMap((x, k) => (Math.abs(x - middle) < 3 ? [line[2 * k + 1]!] : []))
}

const OPEN = { 'control/m-open/value': 1 }
const SMILE = { 'control/m-mood/value': 1 }
const FROWN = { 'control/m-mood/value': -1 }
const WIDE = { 'control/m-wide/value': 1 }

describe.each(MOUTHS)('a mouth: $name', (face) => {
  const puppet = built(face)
  const shown = (values: Readonly<Record<string, number>>): Path => shownPath(puppet, 'lips', values)

  test('opens round', () => {
    const path = shown(OPEN)
    const depths = middleDepths(path)
    const width = Math.max(...path.anchors.filter((_, k) => k % 2 === 0)) - Math.min(...path.anchors.filter((_, k) => k % 2 === 0))
    // A V and a diamond fill half of their box, a parabola two thirds.
    expect(areaOf(path) / (width * (Math.max(...depths) - Math.min(...depths)))).toBeGreaterThan(0.64)
    expect(Math.max(...depths) - Math.min(...depths)).toBeGreaterThan(0.3 * width)
  })

  test.each([
    ['open', OPEN],
    ['smiling', SMILE],
    ['frowning', FROWN],
    ['smiling wide open', { ...OPEN, ...SMILE, ...WIDE }],
  ])('has no kinks between its corners when %s', (_, values) => {
    const path = shown(values)
    const ends = corners(path)
    const rest = turnsOf(shown({}))
    const between = turnsOf(path).flatMap((turn, k) => (ends.includes(k) ? [] : [turn - rest[k]!]))
    expect(Math.max(0, ...between)).toBeLessThan(3)
  })

  test('closes wholly for m, b and p, and rests as it is drawn', () => {
    const closed = shown(heldSound(puppet, 'mbp'))
    const ground = areaOf(shown(OPEN))
    expect(areaOf(closed) / ground).toBeLessThan(face.name.startsWith('closed') ? 0.25 : 0.004)
    expect(heldSound(puppet, 'rest')['control/m-open/value']).toBe(puppet.controls.find((c) => c.id === 'm-open')!.range.rest)
    expect(areaOf(shown({}))).toBeCloseTo(areaOf(shownPath(face.puppet, 'lips', {})), face.name.startsWith('a line') ? -4 : 3)
  })

  test('stays on the face in the widest smile, wide open', () => {
    for (const mood of [SMILE, FROWN]) {
      const mouth = flatten(shown({ ...OPEN, ...WIDE, ...mood }), 0.5)
      const ground = [flatten(shownPath(puppet, 'face', { ...OPEN, ...WIDE, ...mood }), 0.5)]
      for (let i = 0; i < mouth.length; i += 2) expect(isWithin(ground, mouth[i]!, mouth[i + 1]!, 'nonzero')).toBe(true)
    }
  })

  test('takes its line along wherever it goes', () => {
    const line = puppet.parts['outline'] ? 'outline' : 'm-line'
    for (const values of [OPEN, SMILE, { ...OPEN, ...FROWN }, heldSound(puppet, 'mbp')]) {
      const [a, b] = [shown(values), shownPath(puppet, line, values)]
      expect(Math.max(...a.anchors.map((v, k) => Math.abs(v - b.anchors[k]!)))).toBeLessThan(1e-6)
      expect(Math.max(...a.handles.map((v, k) => Math.abs(v - b.handles[k]!)))).toBeLessThan(1e-6)
    }
  })
})

describe('what shows inside', () => {
  test.each(MOUTHS.slice(0, 2))('upper teeth keep to the upper lip: $name', (face) => {
    const puppet = built(face)
    const gap = (values: Readonly<Record<string, number>>): number =>
      Math.min(...middleDepths(shownPath(puppet, 'teeth', values))) - Math.min(...middleDepths(shownPath(puppet, 'lips', values)))
    for (const values of [OPEN, { ...OPEN, ...SMILE }, { ...OPEN, 'control/m-teeth/value': 1 }])
      expect(gap(values)).toBeLessThanOrEqual(Math.max(0, gap({})) + 3)
  })

  test('it has its mask once, however often it is built', () => {
    const face = MOUTHS[0]!
    const once = built(face)
    expect(once.parts['teeth']!.masks).toHaveLength(1)
    expect(once.parts['teeth']!.masks[0]).toEqual({ shape: 'lips', keep: 'inside', by: 'area' })
  })
})

test('a moustache bends smoothly along, and its ends go with the corners', () => {
  const puppet = built(MOUTHS[3]!)
  const rest = shownPath(puppet, 'moustache', {})
  const smile = shownPath(puppet, 'moustache', SMILE)
  const by = rest.anchors.map((v, k) => smile.anchors[k]! - v)
  expect(by[1]).toBeLessThan(-5)
  expect(by[9]).toBeCloseTo(by[1]!, 3)
  expect(by[5]).toBeGreaterThan(0)
})

describe('building anew', () => {
  test('changes what the sliders do, and adds nothing', () => {
    const face = MOUTHS[1]!
    const once = built(face)
    const known = builtMouth(once)!
    expect(known).toEqual({ lips: 'lips', control: 'm-open', id: 'm', isBeak: false })
    const parts = foundMouth(once)
    expect(parts).toMatchObject({ lips: 'lips', teethUpper: 'teeth', tongue: 'tongue' })
    const wider = { ...face.plan, parts, opening: 0.9 }
    const renamed = { ...once, controls: once.controls.map((c) => (c.id === 'm-open' ? { ...c, name: 'Jaw drop' } : c)) }
    const again = applyEdits(renamed, mouthEdits(renamed, wider, known.id!)).puppet
    expect(again.controls).toHaveLength(once.controls.length)
    expect(again.controls.find((c) => c.id === 'm-open')).toMatchObject({ name: 'Jaw drop' })
    expect(again.responses).toHaveLength(once.responses.length)
    expect(Object.keys(again.parts)).toEqual(Object.keys(once.parts))
    expect(again.parts['teeth']!.masks).toEqual(once.parts['teeth']!.masks)
    expect(again.poses).toEqual(once.poses)
    expect(areaOf(shownPath(again, 'lips', OPEN))).toBeGreaterThan(1.05 * areaOf(shownPath(once, 'lips', OPEN)))
  })
})

describe('a beak of two halves', () => {
  const halves = (x: number): MouthCase => {
    const up = drawn('d-upper', polygonPath([x, 190, x + 90, 205, x, 210]), '#d8a13c', null)
    const low = drawn('d-lower', polygonPath([x, 210, x + 80, 207, x, 228]), '#b9852c', null)
    return caseOf('beak', [FACE, low, up], { lips: 'upper', lowerBeak: 'lower' })
  }

  test('seen from the side both turn about its root, with something dark between them', () => {
    const puppet = built(halves(300))
    const [rest, open] = [{}, OPEN].map((values) => shownPath(puppet, 'lower', values))
    // The hinge stays, the tip goes down and keeps its distance.
    expect(Math.hypot(open!.anchors[0]! - 300, open!.anchors[1]! - 210)).toBeLessThan(1.5)
    expect(open!.anchors[3]).toBeGreaterThan(rest!.anchors[3]! + 20)
    expect(Math.hypot(open!.anchors[2]! - 300, open!.anchors[3]! - 210)).toBeCloseTo(Math.hypot(80, 3), -1)
    expect(shownPath(puppet, 'upper', OPEN).anchors[3]).toBeLessThan(205)
    const inside = shownPath(puppet, 'm-inside', OPEN)
    expect(Math.abs(areaOf(inside))).toBeGreaterThan(800)
    const order = puppet.parts[puppet.root]!.children
    expect(order.indexOf('m-inside')).toBe(order.indexOf('lower') - 1)
  })

  test('seen from the front the lower half drops between its corners', () => {
    const puppet = built(halves(160))
    const open = shownPath(puppet, 'lower', OPEN)
    const rest = shownPath(puppet, 'lower', {})
    expect(open.anchors[1]).toBeCloseTo(rest.anchors[1]!, 3)
    expect(Math.max(...flatten(open, 0.1).filter((_, k) => k % 2 === 1))).toBeGreaterThan(240)
  })

  test('is known as a beak, built anew without a second inside, and has no faults of lips', () => {
    const once = built(halves(300))
    expect(builtMouth(once)).toMatchObject({ lips: 'upper', id: 'm', isBeak: true })
    const again = applyEdits(once, mouthEdits(once, halves(300).plan, 'm')).puppet
    expect(Object.keys(again.parts)).toEqual(Object.keys(once.parts))
    expect(mouthLooker(once, poseRig(compile(once), {}))).toBeNull()
  })

  test('is found by its names', () => {
    const { puppet } = halves(300)
    const named = { ...puppet, parts: { ...puppet.parts } }
    named.parts['upper'] = { ...named.parts['upper']!, name: 'Beak top' }
    named.parts['lower'] = { ...named.parts['lower']!, name: 'beak bottom' }
    expect(foundMouth(named)).toMatchObject({ lips: 'upper', lowerBeak: 'lower' })
  })
})
