import { expect, test } from 'vitest'
import { posePuppet } from '../puppet/evaluate'
import { bonePoint, posedPoint } from '../puppet/probe'
import { drawingOfPart } from '../puppet/rig'
import { armPuppet } from '../test/puppets'
import { placeOfSpot, spotOn, tipOf } from './spots'

test('a spot of a drawing that moves as one piece is followed exactly', () => {
  const arm = armPuppet()
  const rest = posePuppet(arm, {})
  const d = drawingOfPart(rest.rig, 'sleeve')
  const at = { x: 173, y: 94 }
  const spot = spotOn(rest, d, at)!
  const turned = posePuppet(arm, { 'part/sleeve/x': 30, 'part/sleeve/y': -12 })
  expect(placeOfSpot(rest, spot)!.x).toBeCloseTo(at.x, 9)
  expect(placeOfSpot(turned, spot)!.x).toBeCloseTo(at.x + 30, 9)
  expect(placeOfSpot(turned, spot)!.y).toBeCloseTo(at.y - 12, 9)
})

test('a point of a drawing that bends is followed where it is drawn, and the end of a bone with its bone', () => {
  const arm = armPuppet()
  const rest = posePuppet(arm, {})
  const d = drawingOfPart(rest.rig, 'sleeve')
  const bones = Object.keys(arm.bones)
  const bent = posePuppet(arm, { [`bone/${bones.at(-1)!}/angle`]: 50 })
  for (let i = 0; i < rest.rig.drawings[d]!.geometry.points.length / 2; i++) {
    const spot = spotOn(rest, d, posedPoint(rest, d, i))
    if (!spot) continue
    const [now, drawn] = [placeOfSpot(bent, spot)!, posedPoint(bent, d, i)]
    expect(Math.hypot(now.x - drawn.x, now.y - drawn.y)).toBeLessThan(1e-6)
  }
  const last = rest.rig.bones.ids.length - 1
  expect(placeOfSpot(bent, tipOf(rest.rig, last))!.y).toBeCloseTo(bonePoint(bent, last, 1).y, 9)
})

test('a spot of a drawing that has other points now is nowhere', () => {
  const frame = posePuppet(armPuppet(), {})
  const spot = spotOn(frame, drawingOfPart(frame.rig, 'sleeve'), { x: 150, y: 100 })!
  expect(placeOfSpot(frame, { ...spot, of: spot.of + 1 })).toBeNull()
  expect(placeOfSpot(frame, { bone: 'gone', rest: { x: 0, y: 0 } })).toBeNull()
})
