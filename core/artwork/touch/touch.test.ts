import fc from 'fast-check'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Drawing, Path } from '../records'
import type { Puppet } from '../../puppet/schema'
import type { Vec } from '../../kernel/numbers'
import { bindBlended } from '../../binds/commands'
import { run } from '../../puppet/edit'
import { changeArt } from '../../joints/commands'
import { resetPose, setPose } from '../../poses/commands'
import { areaTest } from '../../maths/geometry/booleans'
import { flatten, polygonPath } from '../../maths/geometry/path'
import { distanceToPolyline } from '../../maths/geometry/polyline'
import { compile } from '../../puppet/compile'
import { posePuppet, poseRig } from '../../puppet/evaluate'
import { posedMap, rigidMap, type PosedMap } from '../../puppet/posedMap'
import { armPuppet } from '../../test/puppets'
import { seededRandom } from '../../maths/solve/random'
import { autoWeights } from '../../binds/autoWeights'
import { fitPath } from './fitCurve'
import {
  addPoint,
  alignedPoints,
  bendPoint,
  changePaths,
  deletePoints,
  flipped,
  joinPoints,
  moveHandle,
  movePoints,
  reversed,
  setWidth,
  tapered,
  toggleHidden,
} from './points'
import { areaInPart } from '../../touch/posedArea'
import { FoldedError, pointsOf, poseDrawing, posePath, restPath, writeBack } from '../../touch/posedPaths'
import { ovalPath } from './primitives'
import { snapTo } from './snap'
import { softPull } from './softPull'

let arms: Record<'volume' | 'linear', Puppet>
beforeAll(() => {
  const plain = armPuppet()
  const bones = ['upper', 'lower']
  const field = autoWeights(plain, 'sleeve', bones)
  const bent = (mode: 'volume' | 'linear'): Puppet => run(plain, bindBlended, { part: 'sleeve', bones, field, mode })
  arms = { volume: bent('volume'), linear: bent('linear') }
})

const pose = (puppet: Puppet, upper: number, lower: number): Puppet =>
  run(puppet, setPose, { values: { 'bone/upper/angle': upper, 'bone/lower/angle': lower } })
const sleeve = (puppet: Puppet): Drawing => puppet.drawings['d-sleeve']!
const put = (puppet: Puppet, drawing: Drawing): Puppet => run(puppet, changeArt, { drawings: [drawing], pictures: [] })
const mapOf = (puppet: Puppet): PosedMap => posedMap(posePuppet(puppet), 'sleeve')

/** What shows of the sleeve: all path points as they are posed. */
function seen(puppet: Puppet): number[] {
  const frame = poseRig(compile(puppet))
  const at = frame.rig.drawings.findIndex((d) => d.part === frame.rig.parts.index.get('sleeve'))
  return [...frame.points[at]!]
}

const angle = fc.integer({ min: -75, max: 75 })
const mode = fc.constantFrom('volume' as const, 'linear' as const)
const far = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y)

/** Ways to change a posed drawing, as the tools do. */
const EDITS: Readonly<Record<string, (posed: Drawing, random: () => number) => Drawing>> = {
  'points moved': (posed, random) => {
    const moved = new Map(
      [...pointsOf(posed)].filter(() => random() < 0.6).map(([id, p]) => [id, { x: p.x + 12 * random() - 6, y: p.y + 12 * random() - 6 }]),
    )
    return changePaths(posed, (p) => movePoints(p, moved))
  },
  'handles drawn out': (posed, random) =>
    changePaths(posed, (p) => bendPoint(p, Math.floor(4 * random()), 30 * random() - 15, 30 * random() - 15)),
  'one handle moved': (posed, random) => changePaths(posed, (p) => moveHandle(p, 1, 'out', 30 * random() - 15, 30 * random() - 15, false)),
  'a soft pull': (posed, random) => {
    const [{ x, y }] = [...pointsOf(posed).values()] as unknown as [Vec]
    return changePaths(posed, (p) => softPull(p, { x, y }, 60, 'smooth', 10 * random(), 10 * random() - 5))
  },
  flipped: (posed) => {
    const ids = new Set(pointsOf(posed).keys())
    const middle = [...pointsOf(posed).values()].reduce((sum, p) => sum + p.y / 4, 0)
    return changePaths(posed, (p) => flipped(p, new Set([...ids].slice(0, 2)), 'y', middle))
  },
}

describe.each(Object.keys(EDITS))('%s in a bent pose', (name) => {
  test('and reset and bent again is what was seen, within 0.1 px', () => {
    fc.assert(
      fc.property(mode, angle, angle, fc.integer({ min: 1, max: 1e6 }), (how, upper, lower, seed) => {
        const puppet = pose(arms[how], upper, lower)
        const map = mapOf(puppet)
        const rest = sleeve(puppet)
        const posed = poseDrawing(rest, map)
        const wanted = EDITS[name]!(posed, seededRandom(seed))
        let written: Drawing
        try {
          written = writeBack(rest, posed, wanted, map)
        } catch (error) {
          // Where the bend folds, that is said instead.
          expect(error).toBeInstanceOf(FoldedError)
          return
        }
        const edited = put(puppet, written)
        const again = pose(run(edited, resetPose, { channels: null }), upper, lower)
        expect(seen(again)).toEqual(seen(edited))
        const got = pointsOf(poseDrawing(sleeve(again), mapOf(again)))
        for (const [id, p] of pointsOf(wanted)) {
          expect(far(got.get(id)!, p)).toBeLessThan(0.1)
          p.handles.forEach((h, k) => expect(Math.abs(got.get(id)!.handles[k]! - h)).toBeLessThan(0.1))
        }
      }),
      { numRuns: 12, seed: 5 },
    )
  })
})

describe('outlines drawn on a bent part', () => {
  test('lie where they were drawn after reset and bending again, within 0.1 px', () => {
    let folded = 0
    fc.assert(
      fc.property(mode, angle, angle, fc.double({ min: 0, max: 1, noNaN: true }), (how, upper, lower, along) => {
        const puppet = pose(arms[how], upper, lower)
        const map = mapOf(puppet)
        const spot = map.toCanvas({ x: 120 + 160 * along, y: 100 })
        const drawn = ovalPath({ x: spot.x - 14, y: spot.y - 9, width: 28, height: 18 }, 10)
        let next = 100
        let written: Path
        try {
          written = restPath(drawn, map, () => next++)
        } catch (error) {
          expect(error).toBeInstanceOf(FoldedError)
          folded++
          return
        }
        const image = written.ids.flatMap((_, i) => {
          const piece: number[] = []
          for (let k = 0; k < 8; k++) {
            const one = {
              ...written,
              closed: false,
              ids: [0, 1],
              anchors: pair(written.anchors, i, 2),
              handles: pair(written.handles, i, 4),
            }
            const flat = flatten(one, 0.01)
            const at = 2 * Math.floor((k / 8) * (flat.length / 2))
            const { x, y } = map.toCanvas({ x: flat[at]!, y: flat[at + 1]! })
            piece.push(x, y)
          }
          return piece
        })
        const line = flatten(drawn, 0.005)
        for (let i = 0; i < image.length; i += 2) expect(distanceToPolyline(line, true, image[i]!, image[i + 1]!)).toBeLessThan(0.1)
      }),
      { numRuns: 25, seed: 9 },
    )
    expect(folded).toBeLessThan(13)
  })

  test('a flattened part says that nothing can be drawn on it', () => {
    const flat = rigidMap([1, 0, 0, 0, 5, 5])
    expect(() => restPath(ovalPath({ x: 0, y: 0, width: 5, height: 5 }, 0), flat, () => 9)).toThrow(FoldedError)
    expect(rigidMap([0, 2, -2, 0, 5, 5]).toPart({ x: 5, y: 9 })).toEqual({ x: 2, y: 0 })
  })
})

const pair = (list: readonly number[], i: number, size: number): number[] => {
  const n = list.length / size
  return [...list.slice(size * i, size * (i + 1)), ...list.slice(size * ((i + 1) % n), size * (((i + 1) % n) + 1))]
}

test('the way back finds the spot from which any spot of a bent part came', () => {
  fc.assert(
    fc.property(
      mode,
      angle,
      angle,
      fc.double({ min: 105, max: 295, noNaN: true }),
      fc.double({ min: 82, max: 118, noNaN: true }),
      (how, upper, lower, x, y) => {
        const map = mapOf(pose(arms[how], upper, lower))
        const spot = map.toCanvas({ x, y })
        const found = map.toPart(spot)
        // Under a fold another spot may be seen in the same place; what is found is posed there in any case.
        if (found) expect(far(map.toCanvas(found), spot)).toBeLessThan(1e-3)
        else expect(Math.abs(lower)).toBeGreaterThan(20)
      },
    ),
    { numRuns: 80, seed: 3 },
  )
})

describe('points', () => {
  const curve = ovalPath({ x: 0, y: 0, width: 100, height: 60 }, 0)
  const open: Path = { ...curve, closed: false }

  test('a point that is added leaves the outline, and taken away again nearly so', () => {
    const more = addPoint(curve, 1, 0.3, 9)
    expect(more.ids).toEqual([0, 1, 9, 2, 3])
    const line = flatten(curve, 0.01)
    const check = (path: Path, within: number): void => {
      const points = flatten(path, 0.01)
      for (let i = 0; i < points.length; i += 2) expect(distanceToPolyline(line, true, points[i]!, points[i + 1]!)).toBeLessThan(within)
    }
    check(more, 0.06)
    check(deletePoints(more, new Set([9]))!, 0.06)
    expect(deletePoints(curve, new Set([0, 1, 2]))).toBeNull()
    expect(deletePoints(curve, new Set([2]))!.ids).toEqual([0, 1, 3])
  })

  test('a corner becomes a curve and a corner again by one drag', () => {
    const bent = bendPoint(curve, 0, 8, 3)
    expect(bent.handles.slice(0, 4)).toEqual([-8, -3, 8, 3])
    expect(bendPoint(bent, 0, 0, 0).handles.slice(0, 4)).toEqual([0, 0, 0, 0])
    const turned = moveHandle(bent, 0, 'out', 0, 10, false)
    expect(turned.handles.slice(0, 2).map((h) => Math.round(h * 1e6) / 1e6 + 0)).toEqual([0, -8.544004])
    expect(moveHandle(bent, 0, 'out', 0, 10, true).handles.slice(0, 2)).toEqual([-8, -3])
  })

  test('ends join: of one path they close it, of two they make one', () => {
    const drawing = (...paths: Path[]): Drawing => ({
      id: 'd',
      shapes: [{ id: 0, paths, ink: null, line: null, alpha: 1, lineFirst: false }],
    })
    const closed = joinPoints(drawing(open), 0, 3)!.shapes[0]!.paths
    expect(closed).toHaveLength(1)
    expect(closed[0]).toMatchObject({ closed: true, ids: [1, 2, 3] })
    const other: Path = { ...open, ids: [4, 5, 6, 7], anchors: open.anchors.map((v, i) => (i % 2 === 0 ? v + 200 : v)), hidden: [4] }
    const joined = joinPoints(drawing(open, other), 3, 4)!.shapes[0]!.paths
    expect(joined).toHaveLength(1)
    expect(joined[0]).toMatchObject({ closed: false, ids: [0, 1, 2, 3, 5, 6, 7], hidden: [3] })
    // Whichever ends are meant, the paths are turned round to fit.
    expect(joinPoints(drawing(open, other), 0, 7)!.shapes[0]!.paths[0]!.ids).toEqual([3, 2, 1, 0, 6, 5, 4])
    expect(joinPoints(drawing(open), 0, 2)).toBeNull()
    expect(reversed(reversed(curve))).toEqual(curve)
  })

  test('stretches hide and show, lines swell and taper', () => {
    const hidden = toggleHidden(open, new Set([1, 3]))
    expect(hidden.hidden).toEqual([1])
    expect(toggleHidden(hidden, new Set([1]))).toEqual(open)
    expect(setWidth(open, 2, 1.6).widths).toEqual([1, 1, 1.6, 1])
    expect(setWidth(setWidth(open, 2, 1.6), 2, 1).widths).toBeUndefined()
    expect(tapered(open).widths).toEqual([0, 1, 1, 0])
  })

  test('are aligned', () => {
    const spots = new Map([
      [1, { x: 0, y: 4 }],
      [2, { x: 10, y: 8 }],
    ])
    expect([...alignedPoints(spots, 'middle').values()].map((p) => p.x)).toEqual([5, 5])
    expect([...alignedPoints(spots, 'bottom').values()].map((p) => p.y)).toEqual([8, 8])
  })
})

describe('freehand', () => {
  /** A shaky hand along a curve. */
  function hand(at: (t: number) => Vec, shake: number, n = 200): number[] {
    const random = seededRandom(4)
    return Array.from({ length: n + 1 }, (_, i) => at(i / n)).flatMap(({ x, y }) => [
      x + shake * (random() - 0.5),
      y + shake * (random() - 0.5),
    ])
  }

  test('becomes few curves within its tolerance', () => {
    const line = hand((t) => ({ x: 300 * t, y: 60 * Math.sin(2 * Math.PI * t) }), 1)
    const path = fitPath(line, { tolerance: 2, closing: 8, firstId: 5 })!
    expect(path.closed).toBe(false)
    expect(path.ids[0]).toBe(5)
    expect(path.ids.length).toBeLessThan(9)
    const flat = flatten(path, 0.05)
    for (let i = 0; i < line.length; i += 2) expect(distanceToPolyline(flat, false, line[i]!, line[i + 1]!)).toBeLessThan(2.2)
  })

  test('closes by itself where it comes back, and is round there', () => {
    const path = fitPath(
      hand((t) => ({ x: 80 * Math.cos(6.2 * t), y: 80 * Math.sin(6.2 * t) }), 0.5),
      { tolerance: 1.5, closing: 10, firstId: 0 },
    )!
    expect(path.closed).toBe(true)
    const [ix, iy, ox, oy] = path.handles.slice(0, 4) as [number, number, number, number]
    expect((ix * ox + iy * oy) / (Math.hypot(ix, iy) * Math.hypot(ox, oy))).toBeLessThan(-0.98)
    expect(fitPath([4, 4, 4.2, 4.1], { tolerance: 1, closing: 5, firstId: 0 })).toBeNull()
  })

  test('keeps corners', () => {
    const square = (t: number): Vec => {
      const s = 4 * t
      return s < 1
        ? { x: 100 * s, y: 0 }
        : s < 2
          ? { x: 100, y: 100 * (s - 1) }
          : s < 3
            ? { x: 100 - 100 * (s - 2), y: 100 }
            : { x: 0, y: 100 - 100 * (s - 3) }
    }
    const path = fitPath(hand(square, 0.3), { tolerance: 1.5, closing: 8, firstId: 0 })!
    expect(path.closed).toBe(true)
    for (const corner of [
      [0, 0],
      [100, 0],
      [100, 100],
      [0, 100],
    ])
      expect(
        Math.min(...path.ids.map((_, i) => Math.hypot(path.anchors[2 * i]! - corner[0]!, path.anchors[2 * i + 1]! - corner[1]!))),
      ).toBeLessThan(2)
    expect(path.ids.length).toBeLessThan(8)
  })
})

test('spots are caught by points first, then by guides', () => {
  const targets = {
    spots: [{ x: 10, y: 10 }],
    guides: [
      { axis: 'x' as const, at: 20 },
      { axis: 'y' as const, at: 40 },
    ],
  }
  expect(snapTo({ x: 12, y: 11 }, targets, 4).at).toEqual({ x: 10, y: 10 })
  expect(snapTo({ x: 21, y: 38 }, targets, 4)).toEqual({ at: { x: 20, y: 40 }, by: { spot: null, guides: targets.guides } })
  expect(snapTo({ x: 60, y: 60 }, targets, 4).at).toEqual({ x: 60, y: 60 })
  expect(posePath(ovalPath({ x: 0, y: 0, width: 2, height: 2 }, 0), rigidMap([2, 0, 0, 2, 1, 1])).anchors[0]).toBe(5)
})

test('an area of the posed canvas cuts a bent part where it was seen', () => {
  const puppet = pose(arms.volume, 20, 50)
  const frame = posePuppet(puppet)
  const map = posedMap(frame, 'sleeve')
  // A box about the forearm, far larger than it on the outer side.
  const spots = [map.toCanvas({ x: 262, y: 100 })]
  const square = (r: number): number[] => [-r, -r, r, -r, r, r, -r, r].map((v, i) => v + (i % 2 === 0 ? spots[0]!.x : spots[0]!.y))
  const area = areaInPart(frame, 'sleeve', { paths: [polygonPath(square(24))], rule: 'nonzero' })!
  const inside = areaTest(area)
  for (let x = 225; x < 300; x += 5)
    for (let y = 81; y < 120; y += 4) {
      const p = map.toCanvas({ x, y })
      const off = 24 - Math.max(Math.abs(p.x - spots[0]!.x), Math.abs(p.y - spots[0]!.y))
      if (Math.abs(off) > 0.3) expect(inside(x, y)).toBe(off > 0)
    }
  expect(areaInPart(frame, 'sleeve', { paths: [polygonPath([0, 0, 9, 0, 9, 9])], rule: 'nonzero' })).toBeNull()
})
