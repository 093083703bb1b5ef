import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '../puppet/invariants'
import { newPuppet } from '../puppet/new'
import type { Drawing, Path } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { run, applyEdits, undoChange } from '../puppet/edit'
import { deletePart, movePart } from '../parts/commands'
import { alternatesOf, makeSwap, setFlipbook, setSwap, unmakeSwap } from './commands'
import { addControl } from '../controls/commands'
import { addResponse } from '../responses/commands'
import { to } from '../test/responding'
import { polygonPath } from '../maths/geometry/path'
import { drawingPart } from '../test/puppets'
import { poseRig } from '../puppet/evaluate'
import { compile } from '../puppet/compile'
import { edit } from '../kernel/command'
import { newPart } from '../parts/new'
import { newControl } from '../controls/new'
import { newResponse } from '../responses/new'
import { addArtwork } from '../puppet/artworkCommands'

const drawn = (id: string, path: Path, colour = '#aa3322'): Drawing => ({
  id,
  shapes: [
    {
      ...{ id: 0, alpha: 1, lineFirst: false, paths: [path] },
      ink: { paint: { kind: 'flat', colour }, alpha: 1, rule: 'nonzero' },
      line: {
        paint: { kind: 'flat', colour: '#221a18' },
        alpha: 1,
        width: id === 'c' ? 6 : 2,
        cap: 'butt',
        join: 'miter',
        miter: 4,
        dash: null,
        pen: null,
      },
    },
  ],
})

/** A group with a square, a wider one, and a hexagon. */
function mouths(): Puppet {
  let puppet = newPuppet('p', 'P', { width: 200, height: 200 })
  const drawings = [
    drawn('a', polygonPath([80, 80, 120, 80, 120, 120, 80, 120])),
    drawn('b', polygonPath([60, 90, 140, 90, 140, 110, 60, 110])),
    drawn('c', polygonPath([100, 60, 130, 80, 130, 120, 100, 140, 70, 120, 70, 80]), '#33aa22'),
  ]
  puppet = run(puppet, addArtwork, {
    parent: puppet.root,
    parts: [newPart('mouth', 'Mouth'), ...drawings.map((d) => ({ ...drawingPart(`part-${d.id}`, 'Shape', d), parent: 'mouth' }))],
    drawings,
  })
  return puppet
}

const swapped = (): Puppet => run(mouths(), makeSwap, { group: 'mouth' })
const shownIn = (puppet: Puppet, pose: Record<string, number>): string[] => {
  const frame = poseRig(compile(puppet), pose)
  return puppet.parts['mouth']!.children.filter((id) => frame.shown[frame.rig.parts.index.get(id)!] === 1)
}

describe('swaps', () => {
  test('show one alternate: at rest the first chosen, else the one of the number; none for 0', () => {
    const puppet = swapped()
    expect(brokenInvariants(puppet)).toEqual([])
    expect(alternatesOf(puppet, 'mouth').map((p) => p.alternate)).toEqual([1, 2, 3])
    expect(shownIn(puppet, {})).toEqual(['part-c'])
    expect(shownIn(puppet, { 'part/mouth/alternate': 2 })).toEqual(['part-b'])
    expect(shownIn(puppet, { 'part/mouth/alternate': 0 })).toEqual([])
    expect(shownIn(puppet, { 'part/mouth/alternate': 77 })).toEqual(['part-c'])
  })

  test('numbers stay when alternates are put in another order, and new ones get new numbers; all is undone', () => {
    const puppet = swapped()
    const moved = run(puppet, movePart, { part: 'part-c', parent: 'mouth', index: 0 })
    expect(alternatesOf(moved, 'mouth').map((p) => p.alternate)).toEqual([3, 1, 2])
    const gone = run(moved, deletePart, { part: 'part-c' })
    expect(gone.parts['mouth']!.swap!.initial).toBe(1)
    expect(brokenInvariants(gone)).toEqual([])
    const out = applyEdits(puppet, [edit(movePart, { part: 'part-b', parent: puppet.root, index: 0 })])
    expect(out.puppet.parts['part-b']!.alternate).toBe(0)
    expect(undoChange(out.puppet, out.change)).toEqual(puppet)
    const back = run(out.puppet, movePart, { part: 'part-b', parent: 'mouth', index: 0 })
    expect(alternatesOf(back, 'mouth').map((p) => p.alternate)).toEqual([4, 1, 3])
  })

  test('what is not there is refused; a swap becomes a plain group again that shows the same', () => {
    const puppet = swapped()
    const { swap } = puppet.parts['mouth']!
    expect(() => run(puppet, setSwap, { part: 'mouth', swap: { ...swap!, initial: 9 } })).toThrow('no such alternate')
    expect(() => run(puppet, makeSwap, { group: 'part-a' })).toThrow('nothing in it to choose from')
    expect(() => run(puppet, makeSwap, { group: puppet.root })).toThrow('topmost')
    const book = {
      id: 'f',
      name: 'Blink',
      channel: 'part/mouth/alternate',
      pictures: [1, 8],
      hold: 0.1,
      way: 'forward' as const,
      ends: 'once' as const,
      timer: null,
    }
    expect(() => run(puppet, setFlipbook, { flipbook: book })).toThrow('not there')
    const withBook = run(puppet, setFlipbook, { flipbook: { ...book, pictures: [1, 2] } })
    const plain = run(withBook, unmakeSwap, { swap: 'mouth' })
    expect(plain.flipbooks).toEqual([])
    expect(brokenInvariants(plain)).toEqual([])
    expect(plain.parts['mouth']!.children.filter((id) => plain.parts[id]!.visible)).toEqual(['part-c'])
  })
})

describe('responses', () => {
  test('choose an alternate at their place along the way, and give it back', () => {
    const control = newControl('pick', 'Pick')
    const response = {
      ...newResponse('r', 'R', 'ruler', [{ kind: 'channel' as const, channel: 'control/pick/value' }]),
      stops: [{ id: 's', at: [1], changes: [to('part/mouth/alternate', 1)] }],
    }
    const puppet = run(run(swapped(), addControl, { control }), addResponse, { response })
    const at = (value: number): string => shownIn(puppet, { 'control/pick/value': value })[0]!
    expect([0, 0.4, 0.6, 1, -1].map(at)).toEqual(['part-c', 'part-c', 'part-a', 'part-a', 'part-c'])
  })
})

describe('morphing', () => {
  const outline = (puppet: Puppet, from: number, to: number, way: number): number[] => {
    const frame = poseRig(compile(puppet), { 'part/mouth/alternate': to, 'part/mouth/before': from, 'part/mouth/way': way })
    return [...frame.morphs.drawn.find((m) => m !== null)!.points]
  }
  /** Distance of points from a closed polygon. */
  const off = (points: number[], polygon: number[]): number => {
    let worst = 0
    for (let i = 0; i < points.length; i += 2) {
      let least = Infinity
      for (let k = 0; k < polygon.length; k += 2) {
        const [ax, ay] = [polygon[k]!, polygon[k + 1]!]
        const [dx, dy] = [polygon[(k + 2) % polygon.length]! - ax, polygon[(k + 3) % polygon.length]! - ay]
        const t = Math.min(1, Math.max(0, ((points[i]! - ax) * dx + (points[i + 1]! - ay) * dy) / (dx * dx + dy * dy)))
        least = Math.min(least, Math.hypot(points[i]! - ax - t * dx, points[i + 1]! - ay - t * dy))
      }
      worst = Math.max(worst, least)
    }
    return worst
  }
  const cornersOf = (puppet: Puppet, drawing: string): number[] => puppet.drawings[drawing]!.shapes[0]!.paths[0]!.anchors
  const misses = (points: number[], corners: number[]): number =>
    Math.max(
      ...Array.from({ length: corners.length / 2 }, (_, k) => {
        let least = Infinity
        for (let i = 0; i < points.length; i += 2)
          least = Math.min(least, Math.hypot(points[i]! - corners[2 * k]!, points[i + 1]! - corners[2 * k + 1]!))
        return least
      }),
    )

  test.each([
    [1, 2, 'a', 'b'],
    [1, 3, 'a', 'c'],
    [3, 2, 'c', 'b'],
  ] as const)('from %i to %i is exact at both ends, also with other numbers of points', (from, to, first, last) => {
    const puppet = swapped()
    for (const [way, drawing] of [
      [0, first],
      [1 - 1e-12, last],
    ] as const) {
      const points = outline(puppet, from, to, way)
      expect(off(points, cornersOf(puppet, drawing))).toBeLessThan(1e-6)
      expect(misses(points, cornersOf(puppet, drawing))).toBeLessThan(1e-6)
    }
    expect(shownIn(puppet, { 'part/mouth/alternate': to, 'part/mouth/before': from, 'part/mouth/way': 1 })).toEqual([`part-${last}`])
  })

  test('between them it is continuous, and colour and line go along', () => {
    const puppet = swapped()
    let before = outline(puppet, 1, 3, 0)
    for (let k = 1; k <= 100; k++) {
      const now = outline(puppet, 1, 3, Math.min(k / 100, 1 - 1e-12))
      expect(Math.max(...now.map((v, i) => Math.abs(v - before[i]!)))).toBeLessThan(1.5)
      before = now
    }
    const half = poseRig(compile(puppet), { 'part/mouth/alternate': 3, 'part/mouth/before': 1, 'part/mouth/way': 0.5 })
    const morphed = half.morphs.drawn.find((m) => m !== null)!
    expect(morphed.widths[0]).toBeCloseTo(4 / 6, 9)
    expect(morphed.inks[0]!.every((v) => v > 0 && v < 1)).toBe(true)
  })

  test('two that share their drawings morph apart from each other', () => {
    const twins = ['a', 'b'].map((d) => ({ ...mouths().parts[`part-${d}`]!, id: `twin-${d}`, parent: 'twin' }))
    const beside = { ...newPart('twin', 'Twin'), home: { ...newPart('t', 'T').home, x: 50 } }
    const both = run(swapped(), addArtwork, {
      parent: swapped().root,
      parts: [beside, ...twins.map((t) => ({ ...t, alternate: 0 }))],
      drawings: [],
    })
    const puppet = run(both, makeSwap, { group: 'twin' })
    const going = (id: string, way: number) => ({ [`part/${id}/alternate`]: 2, [`part/${id}/before`]: 1, [`part/${id}/way`]: way })
    const frame = poseRig(compile(puppet), { ...going('mouth', 0.5), ...going('twin', 0.5) })
    const [first, second] = frame.morphs.drawn.filter((m) => m !== null).map((m) => m.points)
    expect([...second!].map((v, i) => v - first![i]!)).toEqual([...first!].map((_, i) => (i % 2 === 0 ? 50 : 0)))
  })

  test('a cut changes at half of the way, a fade goes through both', () => {
    const puppet = swapped()
    const how = (way: 'cut' | 'fade'): Puppet => {
      const { swap } = puppet.parts['mouth']!
      return run(puppet, setSwap, { part: 'mouth', swap: { ...swap!, morph: { how: way, seconds: 0.2, eases: false } } })
    }
    const at = (way: number) => ({ 'part/mouth/alternate': 1, 'part/mouth/before': 2, 'part/mouth/way': way })
    expect([0, 0.4, 0.6, 1].map((w) => shownIn(how('cut'), at(w))[0])).toEqual(['part-b', 'part-b', 'part-a', 'part-a'])
    const frame = poseRig(compile(how('fade')), at(0.75))
    const opacity = (id: string): number => frame.opacity[frame.rig.parts.index.get(id)!]!
    expect([opacity('part-a'), opacity('part-b')]).toEqual([1, 0.5])
  })
})
