import { expect, test } from 'vitest'
import type { Deformer } from '../deformers/records'
import type { Puppet } from '../puppet/schema'
import { addDeformer } from '../deformers/commands'
import { run } from '../puppet/edit'
import { posePuppet } from '../puppet/evaluate'
import { armPuppet } from '../test/puppets'
import { inspectRig } from '../reports/report'

const common = { name: 'Odd', when: 'before', bone: null, on: true, amount: 1, only: null } as const
const pin = (id: string, x: number) =>
  ({ id, kind: 'pin', at: { x, y: 100 }, end: null, held: true, turns: true, radius: 0, depth: 0 }) as const
const square = { vertices: [100, 80, 300, 80, 300, 120, 100, 120], triangles: [0, 1, 2, 0, 2, 3], stiffness: [1, 1, 1, 1] }

const ODD: readonly (readonly [string, Deformer, Record<string, number>])[] = [
  [
    'has a cage without breadth or height',
    {
      kind: 'cage',
      id: 'd',
      ...common,
      box: { x: 100, y: 80, width: 200, height: 0 },
      angle: 0,
      columns: 1,
      rows: 1,
      smooth: true,
      form: [0, 0, 0, 0, 0, 0, 0, 0],
    },
    { 'handle/d.0.0/x': 20 },
  ],
  [
    'has a bend with two points on one spot',
    {
      kind: 'bend',
      id: 'd',
      ...common,
      points: [
        { id: 'a', at: { x: 100, y: 100 } },
        { id: 'b', at: { x: 100, y: 100 } },
      ],
      stretch: true,
      holdStart: false,
      holdEnd: false,
    },
    { 'handle/b/y': 30 },
  ],
  ['has two pins on one spot', { kind: 'pins', id: 'd', ...common, ...square, pins: [pin('a', 150), pin('b', 150)] }, { 'handle/b/y': 30 }],
  [
    'has pins in a mesh with flat triangles',
    { kind: 'pins', id: 'd', ...common, ...square, triangles: [0, 1, 2, 0, 2, 3, 0, 1, 1], pins: [pin('a', 150), pin('b', 250)] },
    { 'handle/b/y': 30 },
  ],
]

test.each(ODD)('a part that %s is found, and shown without a NaN', (words, deformer, pose) => {
  const puppet = run(armPuppet(), addDeformer, { part: 'sleeve', deformer })
  expect(inspectRig(puppet).map((f) => `${f.target.name} ${f.message}`)).toContain(`Sleeve ${words} (Odd)`)
  const frame = posePuppet(puppet, pose)
  for (const points of [...frame.points, frame.parts]) for (const v of points ?? []) expect(Number.isFinite(v)).toBe(true)
})

test('a bone without length is found, and moves what it moves without a NaN', () => {
  const arm = armPuppet()
  const flat: Puppet = { ...arm, bones: { ...arm.bones, lower: { ...arm.bones['lower']!, end: arm.bones['lower']!.start } } }
  expect(inspectRig(flat).map((f) => f.message)).toContain('has no length, and so no direction')
  for (const v of posePuppet(flat, { 'bone/lower/angle': 40, 'bone/lower/length': 2 }).bones) expect(Number.isFinite(v)).toBe(true)
})
