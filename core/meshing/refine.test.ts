import { describe, expect, test } from 'vitest'
import { pinMesh } from '../binds/fitDeformers'
import { autoWeights } from '../binds/autoWeights'
import { parsePuppet } from '../puppet/invariants'
import type { Pins } from '../deformers/records'
import type { Puppet } from '../puppet/schema'
import { bindBlended, bindWhole } from '../binds/commands'
import { run } from '../puppet/edit'
import { addDeformer } from '../deformers/commands'
import { meshEdges, splitMeshEdges } from './edit'
import { evenGrid } from '../test/meshes'
import { armPuppet } from '../test/puppets'
import { denserWhereBent } from './refine'
import { newPart } from '../parts/new'
import { setPictureMesh } from '../deformers/meshCommands'

/** The arm with a picture of 200 by 40 px in the place of its sleeve. */
function pictured(): Puppet {
  const arm = armPuppet()
  const grid = evenGrid(21, 5)
  const mesh = { spacing: 10, vertices: grid.vertices.map((v, i) => v + (i % 2 === 0 ? 100 : 80)), triangles: grid.triangles }
  const picture = { id: 'p', asset: 'a'.repeat(64), width: 200, height: 40, x: 100, y: 80, scale: 1, mesh }
  const part = { ...newPart('flat', 'Flat', { kind: 'picture' as const }), parent: arm.root, art: { front: 'p' } }
  const root = { ...arm.parts[arm.root]!, children: [...arm.parts[arm.root]!.children, 'flat'] }
  return parsePuppet({ ...arm, pictures: { p: picture }, parts: { ...arm.parts, [arm.root]: root, flat: part } })
}

const meshOf = (puppet: Puppet) => puppet.pictures['p']!.mesh

describe('a mesh denser where it bends', () => {
  test('gets its points about the elbow, and none where nothing bends it', () => {
    const still = run(pictured(), bindWhole, { parts: ['flat'], bone: 'upper' })
    expect(denserWhereBent(still, 'flat', meshOf(still))).toBeNull()
    const bones = ['upper', 'lower']
    const bent = run(still, bindBlended, { part: 'flat', bones, field: autoWeights(still, 'flat', bones) })
    const denser = denserWhereBent(bent, 'flat', meshOf(bent))!
    const added = denser.vertices.slice(meshOf(bent).vertices.length).filter((_, i) => i % 2 === 0)
    const elbow = bent.bones['lower']!.start.x
    expect(added.length).toBeGreaterThan(20)
    const near = added.filter((x) => Math.abs(x - elbow) < 50).length
    expect(near / added.length).toBeGreaterThan(0.8)
  })

  test('gets more points about each pin, and pins that shared the mesh go on sharing it with their stiffness', () => {
    const plain = pictured()
    const mesh = pinMesh(plain, 'flat', 'pins')
    const pins: Pins = {
      ...mesh,
      stiffness: mesh.stiffness.map((_, v) => 1 + mesh.vertices[2 * v]! / 100),
      pins: [{ id: 'a', kind: 'pin', at: { x: 150, y: 100 }, end: null, held: true, turns: true, radius: 0, depth: 0 }],
    }
    const pinned = run(plain, addDeformer, { part: 'flat', deformer: pins })
    const denser = denserWhereBent(pinned, 'flat', meshOf(pinned))!
    const added = denser.vertices.slice(meshOf(pinned).vertices.length)
    for (let i = 0; i < added.length; i += 2) expect(Math.hypot(added[i]! - 150, added[i + 1]! - 100)).toBeLessThan(30)
    const kept = run(pinned, setPictureMesh, { picture: 'p', mesh: denser }).parts['flat']!.deformers[0] as Pins
    expect(kept.vertices).toEqual(denser.vertices)
    kept.stiffness.forEach((s, v) => expect(s).toBeCloseTo(1 + denser.vertices[2 * v]! / 100, 6))
  })

  test('a mesh that does not hold together is refused', () => {
    const puppet = pictured()
    const split = splitMeshEdges(meshOf(puppet), meshEdges(meshOf(puppet)))
    const mesh = { spacing: 10, vertices: [...split.vertices], triangles: [0, 1, 99999] }
    expect(() => run(puppet, setPictureMesh, { picture: 'p', mesh })).toThrow('does not hold together')
  })
})
