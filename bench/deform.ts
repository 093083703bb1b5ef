/** Deformers, limbs and brushes: what one move of a drag costs, from the pose to the posed frame. */
import { WeightCanvas } from '@marionette/core/binds/weightBrush'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { Arap } from '@marionette/core/maths/solve/arap'
import { ChainReach } from '@marionette/core/maths/solve/chainReach'
import { wobblyGrid } from '@marionette/core/test/meshes'
import { DEMOS } from '@marionette/demo/demos'
import { measure, type Figure } from './measure'
import type { WeightField } from '@marionette/core/binds/records'

/** One move of a pin on a mesh of 2,000 vertices with eight pins: three iterations, turns and all. */
export function arapFigure(): Figure {
  const mesh = wobblyGrid(50, 40)
  const held = [0, 49, 1950, 1999, 25, 1000, 1025, 1975]
  const arap = new Arap(
    mesh,
    held.map((v) => ({ corners: [v, v, v], shares: [1, 0, 0] })),
  )
  const targets = new Float64Array(2 * held.length)
  return measure('arap-2000', 2000, 'one move of eight pins: start and three iterations', (round) => {
    held.forEach((v, k) => {
      targets[2 * k] = mesh.vertices[2 * v]! + 40 * Math.sin(0.05 * round + k)
      targets[2 * k + 1] = mesh.vertices[2 * v + 1]! + 40 * Math.cos(0.065 * round + k) - 40
    })
    arap.solve(targets, 3)
  })
}

/** One dab on a field of 20,000 vertices and three bones. */
export function weighFigure(): Figure {
  const { vertices, triangles } = wobblyGrid(200, 100)
  const n = vertices.length / 2
  const field: WeightField = { vertices, triangles, starts: [0], bones: [], weights: [] }
  for (let v = 0; v < n; v++) {
    field.bones.push(v % 200 < 100 ? 0 : 1)
    field.weights.push(1)
    field.starts.push(v + 1)
  }
  const canvas = new WeightCanvas(field, 3, Float64Array.from(vertices))
  const locked = new Uint8Array(3)
  const brush = { mode: 'add', bone: 2, radius: 200, strength: 0.2, value: 1, falloff: 0.6 } as const
  return measure('weigh-dab-20000', n, 'one dab of 200 px radius, about 1,250 vertices', (round) => {
    canvas.dab(200 + ((37 * round) % 1600), 500, brush, locked)
  })
}

/** One solve of a limb of ten bones within limits. */
export function reachFigure(): Figure {
  const limb = new ChainReach(10)
  limb.count = 10
  for (let i = 0; i < 10; i++) {
    limb.links[2 * i] = 30
    limb.min[i] = -40
    limb.max[i] = 60
  }
  return measure('reach-10', 10, 'ten bones within limits, to 0.01 px', (round) => {
    limb.angles.fill(0)
    limb.solve(150 + 90 * Math.cos(0.3 * round), 90 * Math.sin(0.3 * round), 0)
  })
}

/** One frame of a demo puppet while a channel of it is moved. */
function moveFigure(name: string, demo: string, address: string, note: string): Figure {
  const { puppet } = DEMOS[demo]!()
  const rig = compile(puppet)
  const frame = makeFrame(rig)
  const pose = new Float64Array(rig.restPose.length)
  return measure(name, rig.drawings.length, note, (round) => {
    evaluate(rig, writePose(rig, { [address]: 30 * Math.sin(0.1 * round) }, pose), frame)
  })
}

export const neckFigure = (): Figure =>
  moveFigure('evaluate-quill-neck', 'quill', 'target/quill-path-3/y', 'six bones on a path that moves')
export const wingFigure = (): Figure => moveFigure('evaluate-quill-wing', 'quill', 'handle/pins-wing-near.2/y', 'a pin of a painted wing')
