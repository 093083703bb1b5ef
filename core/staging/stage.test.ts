import { describe, expect, test } from 'vitest'
import { apply } from '../maths/geometry/affine'
import { bindWhole } from '../binds/commands'
import { addClip } from '../clips/commands'
import { setKeys } from '../clips/keyCommands'
import { newClip } from '../clips/new'
import { nth } from '../kernel/sure'
import { poseInClip } from '../playing/clips'
import { drawnParts } from '../parts/tree'
import { setPose } from '../poses/commands'
import { run } from '../puppet/edit'
import { posePuppet } from '../puppet/evaluate'
import { armPuppet } from '../test/puppets'
import { cameraCorners, cameraMap, newCamera } from './camera'
import { cameraChannel, cameraIn } from './channels'
import { setCamera, setScenery } from './commands'

const canvas = { width: 400, height: 300 }
const camera = { ...newCamera(canvas), x: 100, y: 80, zoom: 2, angle: 90 }

describe('a camera', () => {
  test('that rests sees the canvas as it is', () => {
    expect(cameraMap(newCamera(canvas)).map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([1, 0, 0, 1, 0, 0])
  })

  test('has its middle in the middle of the picture, nearer and turned the other way', () => {
    const map = cameraMap(camera)
    expect(apply(map, { x: 100, y: 80 })).toEqual({ x: expect.closeTo(200, 9), y: expect.closeTo(150, 9) })
    // Turned counter-clockwise by a quarter, what lies to the right of it comes to lie below.
    expect(apply(map, { x: 110, y: 80 })).toEqual({ x: expect.closeTo(200, 9), y: expect.closeTo(170, 9) })
  })

  test('has a frame whose corners are those of the picture', () => {
    const [first] = cameraCorners(camera)
    const at = apply(cameraMap(camera), first!)
    expect([at.x, at.y]).toEqual([expect.closeTo(0, 9), expect.closeTo(0, 9)])
  })

  test('is keyed like everything, and its keys go with it', () => {
    let puppet = run(armPuppet(), setCamera, { camera: newCamera(canvas) })
    puppet = run(puppet, addClip, { clip: newClip('act', 'Act') })
    const channel = cameraChannel(puppet, 'x')
    const keys = [0, 1].map((time) => ({ channel, time, value: 100 + 300 * time, way: 'linear' as const }))
    puppet = run(puppet, setKeys, { clip: 'act', layer: 'act-base', keys })
    expect(cameraIn(puppet, poseInClip(puppet, nth(puppet.clips, 0), 0.5))).toMatchObject({ x: 250, zoom: 1 })
    const without = run(puppet, setCamera, { camera: null })
    expect(nth(nth(without.clips, 0).layers, 0).tracks).toEqual({})
    expect(cameraIn(without)).toBeNull()
  })
})

describe('scenery', () => {
  const puppet = armPuppet()
  const part = nth(
    drawnParts(puppet, puppet.root).filter((p) => p.id !== puppet.root),
    0,
  ).id
  const placeOf = (of: typeof puppet): number[] => {
    const { rig, parts } = posePuppet(of)
    const at = 6 * (rig.parts.index.get(part) ?? 0)
    return [...parts.subarray(at, at + 6)].map((v) => v + 0)
  }
  const moved = { [`part/${puppet.root}/x`]: 70, [`part/${puppet.root}/angle`]: 20, 'bone/upper/angle': 45 }

  test('stands still whatever the puppet does, and moves when it is moved itself', () => {
    const scenery = run(puppet, setScenery, { parts: [part], where: 'background' })
    const still = placeOf(scenery)
    expect(placeOf(puppet)).toEqual(still)
    expect(placeOf(run(puppet, setPose, { values: moved }))).not.toEqual(still)
    expect(placeOf(run(scenery, setPose, { values: { [`part/${puppet.root}/x`]: 70, [`part/${puppet.root}/angle`]: 20 } }))).toEqual(still)
    expect(placeOf(run(scenery, setPose, { values: { [`part/${part}/x`]: 5 } }))).not.toEqual(still)
  })

  test('hangs on no bone, also where it was bound itself before', () => {
    const bound = run(puppet, bindWhole, { parts: [part], bone: 'upper' })
    const turned = { 'bone/upper/angle': 45 }
    const rest = placeOf(bound)
    expect(placeOf(run(bound, setPose, { values: turned }))).not.toEqual(rest)
    expect(placeOf(run(run(bound, setScenery, { parts: [part], where: 'foreground' }), setPose, { values: turned }))).toEqual(rest)
  })

  test('is named once, is no more when its part goes, and is never all of the artwork', () => {
    const twice = run(run(puppet, setScenery, { parts: [part], where: 'background' }), setScenery, { parts: [part], where: 'foreground' })
    expect(twice.stage.scenery).toEqual([{ part, where: 'foreground' }])
    expect(() => run(puppet, setScenery, { parts: [puppet.root], where: 'background' })).toThrow('cannot be scenery')
    expect(run(twice, setScenery, { parts: [part], where: null }).stage.scenery).toEqual([])
  })
})
