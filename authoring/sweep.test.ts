import { beforeAll, describe, expect, test } from 'vitest'
import type { CanvasKit } from 'canvaskit-wasm'
import { cappedDrawings, proposeJoint } from '@marionette/core/joints/jointCaps'
import { cutDrawing } from '@marionette/core/artwork/cutDrawing'
import type { Drawing, Path, Puppet, Shape } from '@marionette/core/puppet/schema'
import { newPuppet } from '@marionette/core/puppet/new'
import { bindWhole } from '@marionette/core/binds/commands'
import { addBone, setLimits } from '@marionette/core/bones/commands'
import { run } from '@marionette/core/puppet/edit'
import { sendPiece } from '@marionette/core/cutting/commands'
import { addJoint, changeArt } from '@marionette/core/joints/commands'
import { polygonPath } from '@marionette/core/maths/geometry/path'
import { areaOf, combine, type Area } from '@marionette/core/maths/geometry/booleans'
import { rimsOf } from '@marionette/core/joints/proposeJoints'
import { capsule } from '@marionette/core/test/capsule'
import { drawingPart } from '@marionette/core/test/puppets'
import { loadCanvasKit } from '@marionette/render/node'
import { sweepJoint, tornJoints, worstFirst, type Sweep } from './sweep'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

const closed = (...anchors: number[]): Path => polygonPath(anchors)

/** A limb of 40 px from (60, 200) to (340, 200) with a dark outline of 4 px. */
const limb = (): Drawing => {
  const shape: Shape = {
    ...{ id: 0, alpha: 1, lineFirst: false, paths: [closed(60, 180, 340, 180, 340, 220, 60, 220)] },
    ink: { paint: { kind: 'flat', colour: '#cc8844' }, alpha: 1, rule: 'nonzero' },
    line: { paint: { kind: 'flat', colour: '#221a18' }, alpha: 1, width: 4, cap: 'butt', join: 'miter', miter: 4, dash: null, pen: null },
  }
  return { id: 'limb', shapes: [shape] }
}

/** The limb cut in two at x = 200, with bones, limits and a joint of the given radius. */
function cutLimb({ radius = 20, limits = [-110, 110] }: { radius?: number; limits?: [number, number] } = {}): Puppet {
  const drawing = limb()
  let puppet = newPuppet('p', 'Limb', { width: 400, height: 400 })
  puppet = run(puppet, addArtwork, { parent: puppet.root, parts: [drawingPart('upper', 'Upper', drawing)], drawings: [drawing] })
  const { inside, outside } = cutDrawing(drawing, { paths: [closed(200, 0, 400, 0, 400, 400, 200, 400)], rule: 'nonzero' })
  puppet = run(puppet, sendPiece, {
    ...{ source: 'upper', view: 'front', to: { kind: 'new', id: 'lower', name: 'Lower', role: null } },
    piece: { drawing: { id: 'limb-2', shapes: [...inside] } },
    rest: { drawing: { id: 'limb', shapes: [...outside] } },
  })
  puppet = run(puppet, addBone, { id: 'a', name: 'A', parent: null, start: { x: 60, y: 200 }, end: { x: 200, y: 200 } })
  puppet = run(puppet, addBone, { id: 'b', name: 'B', parent: 'a', start: { x: 200, y: 200 }, end: { x: 340, y: 200 } })
  puppet = run(puppet, setLimits, { bone: 'b', limits: { min: limits[0], max: limits[1] } })
  puppet = run(puppet, bindWhole, { parts: ['upper'], bone: 'a' })
  puppet = run(puppet, bindWhole, { parts: ['lower'], bone: 'b' })
  return run(puppet, addJoint, { id: 'j', under: 'upper', over: 'lower', at: { x: 200, y: 200 }, radius })
}

/** Two pieces of 48 px, round at both ends and outlined all round, with a joint of the given radius. */
function roundLimb(radius: number): Puppet {
  const at = { x: 200, y: 200 }
  const upper = capsule('upper-art', { x: 70, y: 200 }, at, 24)
  const lower = capsule('lower-art', at, { x: 330, y: 200 }, 24)
  let puppet = newPuppet('p', 'Limb', { width: 400, height: 400 })
  const parts = [drawingPart('upper', 'Upper', upper), drawingPart('lower', 'Lower', lower)]
  puppet = run(puppet, addArtwork, { parent: puppet.root, parts, drawings: [upper, lower] })
  puppet = run(puppet, addBone, { id: 'a', name: 'A', parent: null, start: { x: 70, y: 200 }, end: at })
  puppet = run(puppet, addBone, { id: 'b', name: 'B', parent: 'a', start: at, end: { x: 330, y: 200 } })
  puppet = run(puppet, setLimits, { bone: 'b', limits: { min: -110, max: 110 } })
  puppet = run(puppet, bindWhole, { parts: ['upper'], bone: 'a' })
  puppet = run(puppet, bindWhole, { parts: ['lower'], bone: 'b' })
  return run(puppet, addJoint, { id: 'j', under: 'upper', over: 'lower', at, radius })
}

const capped = (puppet: Puppet): Puppet => run(puppet, changeArt, { drawings: cappedDrawings(puppet, puppet.joints['j']!), pictures: [] })
const sweep = (puppet: Puppet, count = 23): Sweep => sweepJoint(CK, puppet, puppet.joints['j']!, { count })
const at = (s: Sweep, angle: number) => s.angles.reduce((best, a) => (Math.abs(a.angle - angle) < Math.abs(best.angle - angle) ? a : best))

describe('a joint swept through its limits', () => {
  test('with caps and a seam has no fault', () => {
    const found = sweep(capped(cutLimb()))
    expect(found.angles).toHaveLength(23)
    expect([found.min, found.max]).toEqual([-110, 110])
    expect(worstFirst(found)[0]).toMatchObject({ holes: 0, corners: 0, doubled: 0 })
  })

  test('a plain cut opens a gap that grows with the angle, and shows corners', () => {
    const found = sweep(cutLimb())
    expect(at(found, 0)).toMatchObject({ holes: 0, corners: 0 })
    expect(at(found, 50).holes).toBeGreaterThan(20)
    expect(at(found, 110).holes).toBeGreaterThan(at(found, 50).holes)
    expect(at(found, -80).corners).toBeGreaterThan(0)
    expect(Math.abs(worstFirst(found)[0]!.angle)).toBeGreaterThan(60)
  })

  test('a gap that is open at rest is found at rest', () => {
    const puppet = cutLimb()
    const moved = puppet.drawings['limb-2']!
    const away = {
      ...moved,
      shapes: moved.shapes.map((s) => ({
        ...s,
        paths: s.paths.map((p) => ({ ...p, anchors: p.anchors.map((v, i) => (i % 2 === 0 ? v + 5 : v)) })),
      })),
    }
    expect(at(sweep(run(puppet, changeArt, { drawings: [away], pictures: [] })), 0).holes).toBeGreaterThan(50)
  })

  test('square ends that overlap leave no gap but stick out as corners once the joint is bent', () => {
    const puppet = cutLimb()
    const longer = (id: string, by: number): Drawing => {
      const d = puppet.drawings[id]!
      return {
        ...d,
        shapes: d.shapes
          .filter((s) => s.ink)
          .map((s) => ({
            ...s,
            paths: s.paths.map((p) => ({ ...p, anchors: p.anchors.map((v, i) => (i % 2 === 0 && Math.abs(v - 200) < 1 ? v + by : v)) })),
          })),
      }
    }
    const found = sweep(run(puppet, changeArt, { drawings: [longer('limb', 20), longer('limb-2', -20)], pictures: [] }))
    expect(at(found, 0)).toMatchObject({ holes: 0, corners: 0, doubled: 0 })
    expect(at(found, 70).corners).toBeGreaterThan(3)
    expect(at(found, -70).corners).toBeGreaterThan(3)
    expect(found.holes).toBe(0)
  })

  describe.each([20, 24, 29])('limbs drawn round, with a joint of %i px', (radius) => {
    const before = roundLimb(radius)
    const after = capped(before)

    test('have no fault once they are capped', () => {
      const { worst, holes } = sweep(after)
      expect(worst.map((w) => w.grade)).toEqual(['good', 'good', 'good'])
      expect(holes).toBe(0)
    })

    test('and nothing sticks out of what was drawn', () => {
      const silhouette = (puppet: Puppet): Area =>
        rimsOf(puppet, puppet.root).reduce<Area>(
          (all, rim) => ({ paths: combine(all, { paths: [polygonPath(rim)], rule: 'nonzero' }, 'unite'), rule: 'nonzero' }),
          { paths: [], rule: 'nonzero' },
        )
      expect(areaOf({ paths: combine(silhouette(after), silhouette(before), 'subtract'), rule: 'nonzero' })).toBeLessThan(2)
    })
  })

  test('ends outlined all round show the upper outline across the limb at every angle', () => {
    const puppet = cutLimb()
    const round = cappedDrawings(
      { ...puppet, joints: { j: { ...puppet.joints['j']!, under: 'lower', over: 'upper' } } },
      { ...puppet.joints['j']!, under: 'lower', over: 'upper' },
    )
    const both = run(capped(puppet), changeArt, { drawings: round.filter((d) => d.id === 'limb-2'), pictures: [] })
    const found = sweep(both)
    for (const angle of [0, 40, -40, 100]) expect(at(found, angle).doubled, `at ${angle}`).toBeGreaterThan(30)
    expect(found.holes).toBe(0)
  })

  test('limits bound what is swept; one side only, too', () => {
    const found = sweep(cutLimb({ limits: [0, 60] }), 7)
    expect(found.angles.map((a) => a.angle)).toEqual([0, 10, 20, 30, 40, 50, 60])
  })

  test('a disc is proposed where the pieces meet, as wide as the limb', () => {
    const disc = proposeJoint(cutLimb(), 'upper', 'lower')!
    expect(disc.centre.x).toBeCloseTo(200, 0)
    expect(disc.centre.y).toBeCloseTo(200, 0)
    expect(Math.abs(disc.radius - 20)).toBeLessThan(2)
  })

  test('is followed through poses of everything, and what comes apart there is found', () => {
    const puppet = capped(cutLimb())
    const poses: Record<string, number>[] = [
      { 'bone/b/angle': 100, 'bone/a/x': 150 },
      { 'bone/b/angle': -60, 'bone/b/x': 29 },
      { 'part/lower/x': 90 },
      { 'bone/a/angle': 70 },
    ]
    const torn = tornJoints(CK, puppet, poses)
    expect(torn.map((t) => t.pose)).toEqual([1, 2])
    expect(torn[0]).toMatchObject({ under: 'Upper', over: 'Lower' })
    expect(torn[0]!.holes).toBeGreaterThan(8)
    expect(torn[1]!.apart).toBeCloseTo(4.5, 1)
  })
})
