import { describe, expect, test } from 'vitest'
import type { Drawing } from '../records'
import { autoWeights } from '../../binds/autoWeights'
import { bindBlended } from '../../binds/commands'
import { run } from '../../puppet/edit'
import { armPuppet, box } from '../../test/puppets'
import { compile } from '../../puppet/compile'
import { poseRig } from '../../puppet/evaluate'
import { fitAffine } from '../../puppet/fit'
import { CLOSE, CUBIC, LINE, MOVE, rigidGeometry } from './flat'

const curve: Drawing = {
  id: 'c',
  shapes: [
    {
      ...box('c', 0, 0, 1, 1).shapes[0]!,
      paths: [{ closed: false, ids: [0, 1], anchors: [0, 0, 90, 30], handles: [0, 0, 10, 60, -50, -40, 0, 0] }],
    },
  ],
}

describe('drawings made ready', () => {
  test('rigid ones keep straight edges as lines and curves as single cubics', () => {
    expect([...rigidGeometry(box('b', 0, 0, 10, 10)).shapes[0]!.verbs]).toEqual([MOVE, LINE, LINE, LINE, LINE, CLOSE])
    expect([...rigidGeometry(curve).shapes[0]!.verbs]).toEqual([MOVE, CUBIC])
    expect(rigidGeometry(curve)).toBe(rigidGeometry(curve))
  })
})

describe('the nearest affine map of a bend', () => {
  const puppet = armPuppet()
  const bent = run(puppet, bindBlended, {
    part: 'sleeve',
    bones: ['upper', 'lower'],
    field: autoWeights(puppet, 'sleeve', ['upper', 'lower']),
  })
  const rig = compile(bent)
  const d = rig.drawings.findIndex((x) => x.tessellation)
  const fit = (pose: Record<string, number>) => fitAffine(poseRig(rig, pose), d, rig.drawings[d]!.geometry.shapes[0]!)

  test('is exact where all bones turn as one', () => {
    const map = fit({ 'bone/upper/angle': 90 })
    const wanted = [0, -1, 1, 0, 0, 200]
    map.forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!, 6))
  })

  test('lies between the bones where they differ', () => {
    const [a, b] = fit({ 'bone/lower/angle': 60 })
    const angle = (Math.atan2(-b, a) * 180) / Math.PI
    expect(angle).toBeGreaterThan(10)
    expect(angle).toBeLessThan(50)
  })
})
