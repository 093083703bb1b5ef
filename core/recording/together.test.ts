/** Points while something is recorded: drawings that coincide go along, and points that come or go change nothing that is seen. */
import { describe, expect, test } from 'vitest'
import { addPoint, changePaths, deletePoints, reversed } from '../artwork/touch/points'
import type { Drawing, Path } from '../artwork/records'
import { drawingBy } from '../artwork/art'
import { changeArt } from '../joints/commands'
import { edit } from '../kernel/command'
import { flatten } from '../maths/geometry/path'
import { distanceToPolyline } from '../maths/geometry/polyline'
import { compile } from '../puppet/compile'
import { applyEdits, run } from '../puppet/edit'
import { poseRig } from '../puppet/evaluate'
import type { Puppet } from '../puppet/schema'
import type { ChangeOf } from '../responses/records'
import { recordStop } from '../responses/commands'
import { built, caseOf, drawn, FACE, LINE, MOUTHS, shownPath } from '../test/mouths'
import { polygonPath } from '../maths/geometry/path'
import { companionsOf } from './together'
import { isRestructured } from './restructured'
import { recordedChanges } from './record'

const OPEN = { 'control/m-open/value': 1 }

/** Lips with a line of their own on them that runs the other way, and a moustache that touches one of their corners. */
const apart = built(
  caseOf('apart', [
    FACE,
    drawn('d-lips', polygonPath([150, 250, 200, 246, 250, 250, 200, 254]), '#4a1f26', null),
    drawn('d-outline', reversed(polygonPath([150, 250, 200, 246, 250, 250, 200, 254])), null, LINE),
    drawn('d-moustache', polygonPath([150, 250, 200, 220, 250, 240, 200, 236]), '#6b4a30', null),
  ]),
)

/** The puppet with the opening recorded anew after an edit of its drawings. */
function recordedAfter(puppet: Puppet, drawings: readonly Drawing[]): Puppet {
  const response = puppet.responses.find((r) => r.id === 'm-open-answer')!
  const stop = response.stops.at(-1)!
  const posed = { ...puppet, pose: OPEN }
  const after = applyEdits(posed, [edit(changeArt, { drawings: [...drawings], pictures: [] })]).puppet
  const changes = recordedChanges(poseRig(compile(posed), OPEN), posed, after, { response, stop, part: null })
  return run(puppet, recordStop, { response: response.id, stop: stop.id, changes })
}

const drawingOf = (puppet: Puppet, part: string): Drawing => drawingBy(puppet, Object.values(puppet.parts[part]!.art)[0]!)!

const nudged = (drawing: Drawing, id: number, by: readonly [number, number]): Drawing =>
  changePaths(drawing, (path) => ({ ...path, anchors: path.anchors.map((v, n) => (path.ids[n >> 1] === id ? v + by[n & 1]! : v)) }))

const pointsAt = (puppet: Puppet, part: string): ChangeOf<'points'> =>
  puppet.responses
    .find((r) => r.id === 'm-open-answer')!
    .stops.at(-1)!
    .changes.find((c): c is ChangeOf<'points'> => c.kind === 'points' && c.part === part)!

describe('drawings whose points coincide', () => {
  test('are found, whichever way their paths run; what only touches is none', () => {
    expect(companionsOf(apart, 'lips').map((c) => c.part)).toEqual(['outline'])
    expect(companionsOf(apart, 'lips')[0]!.pairs).toHaveLength(4)
    expect(companionsOf(apart, 'moustache')).toEqual([])
  })

  test('the line goes along with the lips, and the lips with the line', () => {
    for (const [moved, other] of [
      ['lips', 'outline'],
      ['outline', 'lips'],
    ] as const) {
      const drawing = drawingOf(apart, moved)
      const id = drawing.shapes[0]!.paths[0]!.ids[1]!
      const after = recordedAfter(apart, [nudged(drawing, id, [3, -7])])
      const [a, b] = [moved, other].map((part) => shownPath(after, part, OPEN))
      const line = flatten(a!, 0.05)
      for (let i = 0; i < b!.anchors.length; i += 2)
        expect(distanceToPolyline(line, true, b!.anchors[i]!, b!.anchors[i + 1]!)).toBeLessThan(0.1)
      expect(shownPath(after, other, OPEN).anchors).not.toEqual(shownPath(apart, other, OPEN).anchors)
    }
  })

  test('a drawing that the same edit moves keeps what it was given', () => {
    const after = recordedAfter(apart, [nudged(drawingOf(apart, 'lips'), 1, [0, -9]), nudged(drawingOf(apart, 'outline'), 1, [0, 4])])
    const step = (part: string): number => pointsAt(after, part).by[6 * pointsAt(after, part).ids.indexOf(1) + 1]!
    expect(step('lips')).not.toBeCloseTo(step('outline'), 1)
  })
})

describe('points that come and go while something is recorded', () => {
  const puppet = built(MOUTHS[0]!)
  const near = (a: Path, b: Path): number => {
    const line = flatten(a, 0.02)
    const other = flatten(b, 0.02)
    return Math.max(...other.flatMap((x, k) => (k % 2 === 0 ? [distanceToPolyline(line, true, x, other[k + 1]!)] : [])))
  }

  test.each([0.2, 0.5, 0.77])('a point on a straight side changes nothing at rest and nothing of what is recorded, at %s', (share) => {
    const lips = drawingOf(puppet, 'lips')
    const more = changePaths(lips, (path) => addPoint(path, 1, share, 99))
    const after = run(puppet, changeArt, { drawings: [more], pictures: [] })
    expect(isRestructured(puppet, after)).toBe(true)
    for (const values of [{}, OPEN, { ...OPEN, 'control/m-mood/value': 1 }])
      expect(near(shownPath(puppet, 'lips', values), shownPath(after, 'lips', values))).toBeLessThan(0.05)
  })

  test('a point that goes takes its own along, and the others keep theirs', () => {
    const lips = drawingOf(puppet, 'lips')
    const fewer = changePaths(lips, (path) => deletePoints(path, new Set([path.ids[1]!])))
    const after = run(puppet, changeArt, { drawings: [fewer], pictures: [] })
    expect(isRestructured(puppet, after)).toBe(true)
    expect(pointsAt(after, 'lips').ids).not.toContain(lips.shapes[0]!.paths[0]!.ids[1]!)
  })

  test('moved points, other shapes and other parts are no such edit', () => {
    const lips = drawingOf(puppet, 'lips')
    const moved = run(puppet, changeArt, { drawings: [nudged(lips, 1, [1, 1])], pictures: [] })
    expect(isRestructured(puppet, moved)).toBe(false)
    const shape = { ...lips.shapes[0]!, id: 7, paths: [polygonPath([0, 0, 9, 0, 9, 9])] }
    const added = run(puppet, changeArt, { drawings: [{ ...lips, shapes: [...lips.shapes, shape] }], pictures: [] })
    expect(isRestructured(puppet, added)).toBe(false)
    expect(isRestructured(puppet, { ...puppet, palette: [] })).toBe(false)
  })
})
