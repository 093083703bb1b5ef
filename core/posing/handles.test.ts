import { expect, test } from 'vitest'
import { bindMesh } from '../binds/autoWeights'
import type { Pin, Pins } from '../deformers/records'
import type { Puppet } from '../puppet/schema'
import { addDeformer, setDeformer } from '../deformers/commands'
import { run } from '../puppet/edit'
import { setPose } from '../poses/commands'
import { armPuppet } from '../test/puppets'
import { compile } from '../puppet/compile'
import { evaluate, makeFrame, writePose } from '../puppet/evaluate'
import { dragHandle, handleAt, handlePlaces } from './handles'
import { posedMap } from '../puppet/posedMap'
import type { Frame } from '../puppet/frame'

const pin = (id: string, x: number, y: number): Pin => ({
  id,
  kind: 'pin',
  at: { x, y },
  end: null,
  held: true,
  turns: false,
  radius: 0,
  depth: 0,
})

function pinned(): { puppet: Puppet; pins: Pins } {
  const arm = armPuppet()
  const { mesh, vertices } = bindMesh(arm, 'sleeve', 300)
  const pins: Pins = {
    kind: 'pins',
    id: 'pins',
    name: 'Pins',
    when: 'before',
    bone: null,
    on: true,
    amount: 0.5,
    only: null,
    vertices,
    triangles: mesh.triangles,
    stiffness: vertices.filter((_, i) => i % 2 === 0).map(() => 1),
    pins: [pin('a', 110, 100), pin('b', 290, 100)],
  }
  const turned = run(run(arm, addDeformer, { part: 'sleeve', deformer: pins }), setPose, {
    values: { 'part/sleeve/angle': 25, 'handle/b/y': -80 },
  })
  return { puppet: turned, pins }
}

function posed(puppet: Puppet): { frame: Frame; pose: Float64Array } {
  const rig = compile(puppet)
  const pose = writePose(rig, puppet.pose, new Float64Array(rig.restPose.length))
  return { frame: evaluate(rig, pose, makeFrame(rig)), pose }
}

test('a handle is dragged to any spot of a turned part, whatever the amount is', () => {
  const { puppet } = pinned()
  const { frame, pose } = posed(puppet)
  const spot = { x: 250, y: 40 }
  const values = dragHandle(frame, pose, puppet.pose, 'pins', 'b', spot)!
  const after = run(puppet, setPose, { values })
  const there = posed(after)
  const place = handlePlaces(there.frame, there.pose, after.pose, 'pins').find((p) => p.id === 'b')!
  expect(Math.hypot(place.x - spot.x, place.y - spot.y)).toBeLessThan(0.01)
})

test('a pin that is put in where the part is bent already holds what is there where it is', () => {
  const { puppet, pins } = pinned()
  const { frame, pose } = posed(puppet)
  const rest = { x: 205, y: 96 }
  const spot = posedMap(frame, 'sleeve').toCanvas(rest)
  const made = handleAt(frame, pose, 'pins', spot)!
  expect(Math.hypot(made.at.x - rest.x, made.at.y - rest.y)).toBeLessThan(0.01)
  const more = run(puppet, setDeformer, { part: 'sleeve', deformer: { ...pins, pins: [...pins.pins, pin('c', made.at.x, made.at.y)] } })
  const held = run(more, setPose, { values: { 'handle/c/x': made.values.x, 'handle/c/y': made.values.y } })
  const now = posedMap(posed(held).frame, 'sleeve').toCanvas(rest)
  expect(Math.hypot(now.x - spot.x, now.y - spot.y)).toBeLessThan(0.05)
})
