import { describe, expect, test } from 'vitest'
import { autoWeights } from '../binds/autoWeights'
import { brokenInvariants } from '../puppet/invariants'
import type { Puppet } from '../puppet/schema'
import { compile } from '../puppet/compile'
import { poseRig } from '../puppet/evaluate'
import { posedOutline } from '../puppet/probe'
import { armPuppet } from '../test/puppets'
import { bindBlended, bindWhole } from '../binds/commands'
import { setLimits } from '../bones/commands'
import { run } from '../puppet/edit'
import { addJoint } from '../joints/commands'
import { deletePart, renamePart } from '../parts/commands'
import { freeTwin, limbBones, makeTwin } from './commands'
import { twinsOf } from '../parts/tree'
import { partChannel } from '../parts/channels'
import { boneChannel } from '../bones/channels'
import { drawingBy } from '../artwork/art'

const X = 200
const leftArm = (): Puppet => {
  let puppet = armPuppet()
  const bones = ['upper', 'lower']
  puppet = run(puppet, bindBlended, { part: 'sleeve', bones, field: autoWeights(puppet, 'sleeve', bones) })
  puppet = run(puppet, setLimits, { bone: 'lower', limits: { min: -5, max: 140 } })
  for (const part of Object.values(puppet.parts))
    if (part.id !== puppet.root) puppet = run(puppet, renamePart, { part: part.id, name: `${part.name} left` })
  return puppet
}
const twinned = (): Puppet => {
  const puppet = leftArm()
  const parts = puppet.parts[puppet.root]!.children
  return run(puppet, makeTwin, { parts, bones: limbBones(puppet, parts), across: { kind: 'mirror', x: X }, prefix: 'tw' })
}
const twinOf = (puppet: Puppet, part: string): string => Object.values(puppet.parts).find((p) => p.twin?.of === part)!.id

/** Points of a part's outline in a pose. */
function outline(puppet: Puppet, part: string, pose: Record<string, number>): number[] {
  const frame = poseRig(compile(puppet), pose)
  const d = frame.rig.drawings.findIndex((r) => frame.rig.parts.ids[r.part] === part)
  return frame.rig.drawings[d]!.geometry.shapes.flatMap((s) => posedOutline(frame, d, s).flatMap((o) => o.points))
}

describe('twins', () => {
  test('share artwork, change sides in all names, and have bones with mirrored limits', () => {
    const puppet = twinned()
    expect(brokenInvariants(puppet)).toEqual([])
    const twin = puppet.parts[twinOf(puppet, 'sleeve')]!
    expect(twin.art).toEqual(puppet.parts['sleeve']!.art)
    expect(twin.name).toBe(puppet.parts['sleeve']!.name.replace('left', 'right'))
    const lower = twin.bind?.kind === 'blended' ? puppet.bones[twin.bind.bones[1]!]! : null
    expect(lower?.limits).toEqual({ min: -140, max: 5 })
    expect(Object.keys(puppet.drawings)).toEqual(Object.keys(leftArm().drawings))
  })

  test('a mirrored pose gives the exact mirror image, bends and all', () => {
    const puppet = twinned()
    const twin = puppet.parts[twinOf(puppet, 'sleeve')]!
    const bind = twin.bind as Extract<NonNullable<typeof twin.bind>, { kind: 'blended' }>
    const original = outline(puppet, 'sleeve', { [boneChannel('upper', 'angle')]: 30, [boneChannel('lower', 'angle')]: 75 })
    const mirrored = outline(puppet, twin.id, { [boneChannel(bind.bones[0]!, 'angle')]: -30, [boneChannel(bind.bones[1]!, 'angle')]: -75 })
    expect(mirrored).toHaveLength(original.length)
    original.forEach((v, i) => expect(mirrored[i]).toBeCloseTo(i % 2 === 0 ? 2 * X - v : v, 6))
  })

  test('each has a pose of its own, and a drawing changed in one is changed in both', () => {
    const puppet = twinned()
    const twin = twinOf(puppet, 'sleeve')
    const rest = outline(puppet, 'sleeve', {})
    expect(outline(puppet, 'sleeve', { [partChannel(twin, 'x')]: 40 })).toEqual(rest)
    const art = Object.values(puppet.parts['sleeve']!.art)[0]!
    const drawing = drawingBy(puppet, art)!
    const wider = {
      ...drawing,
      shapes: drawing.shapes.map((s) => ({ ...s, paths: s.paths.map((p) => ({ ...p, anchors: p.anchors.map((v) => v * 1.1) })) })),
    }
    const changed: Puppet = { ...puppet, drawings: { ...puppet.drawings, [art]: wider } }
    const mirrored = outline(changed, twin, {})
    outline(changed, 'sleeve', {}).forEach((v, i) => expect(mirrored[i]).toBeCloseTo(i % 2 === 0 ? 2 * X - v : v, 6))
    expect(
      twinsOf(puppet, twin)
        .map((p) => p.id)
        .sort(),
    ).toEqual(['sleeve', twin].sort())
  })

  test('made independent, a twin has artwork of its own; nothing moves and nothing is left behind', () => {
    const puppet = twinned()
    const twin = twinOf(puppet, 'sleeve')
    const free = run(puppet, freeTwin, { parts: [twin], prefix: 'own' })
    expect(free.parts[twin]!.twin).toBeNull()
    expect(free.parts[twin]!.art).not.toEqual(puppet.parts['sleeve']!.art)
    expect(outline(free, twin, {})).toEqual(outline(puppet, twin, {}))
    expect(brokenInvariants(free)).toEqual([])
    expect(Object.keys(run(leftArm(), freeTwin, { parts: ['sleeve'], prefix: 'own' }).drawings)).toHaveLength(
      Object.keys(leftArm().drawings).length,
    )
  })

  test('without mirroring several are made in a row; a joint goes along', () => {
    let puppet = leftArm()
    const [first, second] = puppet.parts[puppet.root]!.children as [string, string]
    puppet = run(puppet, addJoint, { id: 'j', under: first, over: second, at: { x: 10, y: 20 }, radius: 5 })
    for (let i = 1; i <= 3; i++)
      puppet = run(puppet, makeTwin, {
        parts: puppet.parts[puppet.root]!.children.filter((c) => !puppet.parts[c]!.twin),
        bones: [],
        across: { kind: 'move', dx: 50 * i, dy: 0 },
        prefix: `t${i}`,
      })
    expect(brokenInvariants(puppet)).toEqual([])
    const names = Object.values(puppet.parts).map((p) => p.name)
    expect(new Set(names).size).toBe(names.length)
    expect(Object.values(puppet.joints).map((j) => j.at.x)).toEqual([10, 60, 110, 160])
  })

  test('an original that is deleted leaves its twin a part like any other', () => {
    const puppet = twinned()
    const twin = twinOf(puppet, 'sleeve')
    const without = run(puppet, deletePart, { part: 'sleeve' })
    expect(without.parts[twin]!.twin).toBeNull()
    expect(brokenInvariants(without)).toEqual([])
    expect(outline(without, twin, {})).toEqual(outline(puppet, twin, {}))
  })

  test('binds to bones that stay keep them, or take those of the other side by name', () => {
    const puppet = run(leftArm(), bindWhole, { parts: ['sleeve'], bone: 'upper' })
    const twin = run(puppet, makeTwin, { parts: ['sleeve'], bones: [], across: { kind: 'mirror', x: X }, prefix: 'tw' })
    expect(twin.parts[twinOf(twin, 'sleeve')]!.bind).toEqual({ kind: 'whole', bone: 'upper' })
  })
})
