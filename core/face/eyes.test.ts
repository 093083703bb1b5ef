import { beforeAll, describe, expect, test } from 'vitest'
import { newPuppet } from '../puppet/new'
import type { Puppet } from '../puppet/schema'
import { applyEdits, run } from '../puppet/edit'
import { makeSwap } from '../alternates/commands'
import { ovalPath } from '../artwork/touch/primitives'
import { compile } from '../puppet/compile'
import { poseRig } from '../puppet/evaluate'
import { frameBounds } from '../puppet/probe'
import { box, drawingPart } from '../test/puppets'
import { eyeProblem, eyesEdits } from './eyes'
import { newPart } from '../parts/new'
import { addArtwork } from '../puppet/artworkCommands'
import type { EyeParts } from './eyeParts'

const oval = (id: string, x: number, y: number, r: number) => {
  const drawing = box(`d-${id}`, 0, 0, 1, 1)
  return { ...drawing, shapes: [{ ...drawing.shapes[0]!, paths: [ovalPath({ x: x - r, y: y - r, width: 2 * r, height: 2 * r }, 1)] }] }
}

/** Two round eyes, a hidden area in the right one, and a lid of three heights over the left one. */
function face(): Puppet {
  const drawings = [
    oval('white-r', 60, 60, 20),
    oval('iris-r', 60, 60, 8),
    box('d-area', 55, 58, 10, 4),
    oval('white-l', 140, 60, 20),
    oval('iris-l', 140, 60, 8),
    ...[6, 20, 40].map((height, k) => box(`d-lid-${k}`, 120, 38, 40, height)),
  ]
  const parts = drawings.map((d) => {
    const id = d.id.slice('d-'.length)
    return { ...drawingPart(id, id, d), ...(id.startsWith('lid') && { parent: 'lid' }) }
  })
  const puppet = run(newPuppet('p', 'P', { width: 200, height: 120 }), addArtwork, {
    parent: 'p-root',
    parts: [newPart('lid', 'Lid'), ...parts.reverse()],
    drawings,
  })
  return run(puppet, makeSwap, { group: 'lid' })
}

const right: EyeParts = { white: 'white-r', iris: 'iris-r', lid: null, lashes: [], area: 'area' }
const left: EyeParts = { white: 'white-l', iris: 'iris-l', lid: 'lid', lashes: [], area: null }
const build = (gaze: 'pad' | 'aim'): Puppet =>
  applyEdits(face(), eyesEdits(face(), { eyes: [right, left], reach: 1, every: 4, gaze }, 'e')).puppet

/** Where the middle of an iris is, unmasked by the bounds of its frame. */
function middle(puppet: Puppet, iris: string, pose: Record<string, number>): { x: number; y: number } {
  const free = { ...puppet, parts: { ...puppet.parts, [iris]: { ...puppet.parts[iris]!, masks: [] } } }
  const b = frameBounds(poseRig(compile(free), pose), new Set([iris]))!
  return { x: (b.minX + b.maxX) / 2, y: (b.minY + b.maxY) / 2 }
}

describe('eyes on a pad', () => {
  let puppet: Puppet
  beforeAll(() => void (puppet = build('pad')))

  test('stay within their areas: the white, or one of their own', () => {
    for (let k = 0; k < 16; k++) {
      const pose = { 'control/e-gaze/x': Math.cos((k * Math.PI) / 8), 'control/e-gaze/y': Math.sin((k * Math.PI) / 8) }
      const [r, l] = [middle(puppet, 'iris-r', pose), middle(puppet, 'iris-l', pose)]
      expect(((r.x - 60) / 5) ** 2 + ((r.y - 60) / 2) ** 2).toBeLessThan(1.05)
      expect(Math.hypot(l.x - 140, l.y - 60)).toBeLessThan(12.3)
    }
    expect(middle(puppet, 'iris-l', { 'control/e-gaze/x': 1 }).x).toBeCloseTo(152, 6)
    expect(middle(puppet, 'iris-l', { 'control/e-gaze/y': 1 }).y).toBeCloseTo(48, 6)
  })

  test('cross and part', () => {
    const at = (value: number): number =>
      middle(puppet, 'iris-l', { 'control/e-cross/value': value }).x - middle(puppet, 'iris-r', { 'control/e-cross/value': value }).x
    expect(at(1)).toBeLessThan(80 - 10)
    expect(at(-1)).toBeGreaterThan(80 + 5)
  })

  test('squint: the lower rim of the white rises', () => {
    const low = (value: number): number =>
      frameBounds(poseRig(compile(puppet), { 'control/e-squint/value': value }), new Set(['white-r']))!.maxY
    expect(low(1)).toBeLessThan(low(0) - 8)
  })

  test('close by alternates at their heights, the lowest last', () => {
    const shown = (value: number): string[] => {
      const frame = poseRig(compile(puppet), { 'control/e-lids/value': value })
      return puppet.parts['lid']!.children.filter((id) => frame.shown[frame.rig.parts.index.get(id)!] === 1)
    }
    expect([0, 0.5, 1].map(shown)).toEqual([['lid-0'], ['lid-1'], ['lid-2']])
    expect(puppet.flipbooks[0]).toMatchObject({ channel: 'control/e-lids/value', timer: { every: 4 } })
  })
})

describe('eyes that aim', () => {
  let puppet: Puppet
  beforeAll(() => void (puppet = build('aim')))
  const looking = (x: number, y: number) => {
    const pose = { 'target/e-aim/x': x, 'target/e-aim/y': y }
    return [middle(puppet, 'iris-r', pose), middle(puppet, 'iris-l', pose)] as const
  }

  test('look to where the target is, further the further it is aside, and straight where it rests', () => {
    expect(looking(0, 0)[1]).toEqual({ x: 140, y: 60 })
    const [near, far] = [looking(40, 0)[1].x, looking(300, 0)[1].x]
    expect(near).toBeGreaterThan(141)
    expect(far).toBeGreaterThan(near + 2)
    expect(far).toBeLessThan(152.1)
    expect(looking(0, -200)[1].y).toBeLessThan(52)
    expect(looking(0, 200)[1].y).toBeGreaterThan(68)
  })

  test('beyond the last ring they stay where they are', () => {
    const [a, b] = [looking(1000, 0)[1].x, looking(5000, 0)[1].x]
    expect(Math.abs(a - b)).toBeLessThan(1)
  })
})

test('what cannot be an eye is told in a sentence', () => {
  expect(eyeProblem(face(), left)).toBeNull()
  expect(eyeProblem(face(), { ...right, lid: 'p-root' })).toContain('A lid has to be')
  const flat = {
    ...face(),
    parts: { ...face().parts, lid: { ...face().parts['lid']!, swap: { ...face().parts['lid']!.swap!, initial: 1 } } },
  }
  expect(eyeProblem(flat, left)).toContain('No alternate of the lid')
})
