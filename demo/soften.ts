/** What demo puppets have besides bones: necks on paths, wings in pins, scarves that bend, a squash for landings. */
import { autoWeights } from '@marionette/core/binds/autoWeights'
import { CAGE_PRESETS, withPreset } from '@marionette/core/deformers/cagePresets'
import { bendAlong, cageAround, pinMesh } from '@marionette/core/binds/fitDeformers'
import type { Pin, Puppet, Vec } from '@marionette/core/puppet/schema'
import { bindBlended } from '@marionette/core/binds/commands'
import { setBoneEnds } from '@marionette/core/bones/commands'
import { run } from '@marionette/core/puppet/edit'
import { addConstraint, addTarget } from '@marionette/core/constraints/commands'
import { addDeformer } from '@marionette/core/deformers/commands'
import { splitBone } from '@marionette/core/skeleton/commands'
import { Spline } from '@marionette/core/maths/geometry/spline'
import { nth, sure } from '@marionette/core/kernel/sure'

const partNamed = (puppet: Puppet, name: string): string =>
  sure(Object.values(puppet.parts).find((p) => p.name === name && p.id !== puppet.root)).id
const boneNamed = (puppet: Puppet, name: string) => sure(Object.values(puppet.bones).find((b) => b.name === name))

/** A bend along the middle of a part, and a cage around the whole puppet that squashes it when its amount is given. */
export function withScarfAndSquash(puppet: Puppet): Puppet {
  const scarf = partNamed(puppet, 'Scarf tail')
  const bent = run(puppet, addDeformer, { part: scarf, deformer: bendAlong(puppet, scarf, 'scarf-bend', 4) })
  const squash = sure(CAGE_PRESETS.find((p) => p.name === 'Squash'))
  const cage = withPreset(cageAround(bent, bent.root, 'landing', 'Landing'), squash)
  return run(bent, addDeformer, { part: bent.root, deformer: { ...cage, when: 'after', amount: 0 } })
}

/** A smooth curve through spots, as paths of bones are. */
function curveThrough(spots: readonly Vec[]): (share: number) => Vec {
  const curve = new Spline(spots.length)
  curve.count = spots.length
  spots.forEach(({ x, y }, i) => curve.points.set([x, y], 2 * i))
  curve.space()
  curve.fit()
  return (share) => {
    curve.at(curve.end * share)
    return { x: Math.round(curve.out[0]! * 1e4) / 1e4, y: Math.round(curve.out[1]! * 1e4) / 1e4 }
  }
}

/** Joints of a chain that lies on the path through every second one of them: at rest the path moves nothing. */
function jointsOnPath(through: readonly Vec[], bones: number): Vec[] {
  const first = curveThrough(through)
  const spots = Array.from({ length: bones / 2 + 1 }, (_, k) => first((2 * k) / bones))
  const path = curveThrough(spots)
  const lengths = spots.map((s, k) => (k === 0 ? 0 : Math.hypot(s.x - nth(spots, k - 1).x, s.y - nth(spots, k - 1).y)))
  const total = lengths.reduce((a, b) => a + b, 0)
  let done = 0
  return spots.flatMap((s, k) => {
    const half = (done + lengths[k]! / 2) / total
    done += lengths[k]!
    return k === 0 ? [s] : [path(half), s]
  })
}

/** Six bones of a neck on a path: its last spot leads the head, the ones before it the curve of the neck. */
export function withNeckOnPath(puppet: Puppet): Puppet {
  const three = ['Neck root', 'Neck', 'Neck top'].map((name) => boneNamed(puppet, name))
  const split = three.reduce((p, b, i) => run(p, splitBone, { bone: b.id, ids: [`quill-neck-${i + 1}`] }), puppet)
  const chain = three.flatMap((b, i) => [b.id, `quill-neck-${i + 1}`])
  const through = [nth(three, 0).start, ...three.map((b) => b.end)]
  const joints = jointsOnPath(through, chain.length)
  const head = boneNamed(split, 'Head')
  const moved = chain.map((bone, i) => ({ bone, start: nth(joints, i), end: nth(joints, i + 1) }))
  let laid = run(split, setBoneEnds, { bones: [...moved, { bone: head.id, start: nth(joints, -1), end: head.end }] })
  const neck = partNamed(laid, 'Neck')
  laid = run(laid, bindBlended, { part: neck, bones: chain, field: autoWeights(laid, neck, chain) })
  const spots = [
    { id: 'quill-path-1', name: 'Neck bend low', at: nth(joints, 2) },
    { id: 'quill-path-2', name: 'Neck bend high', at: nth(joints, 4) },
    { id: 'quill-path-3', name: 'Head lead', at: nth(joints, 6) },
  ]
  for (const spot of spots) laid = run(laid, addTarget, { ...spot, parent: boneNamed(laid, 'Body').id })
  const constraint = { kind: 'path', id: 'quill-neck-path', name: 'Neck on a path', amount: 1 } as const
  return run(laid, addConstraint, { constraint: { ...constraint, bones: chain, targets: spots.map((s) => s.id) } })
}

/** Pins at both ends of a wing and a splint along its front edge, for each of the wings. */
export function withPinnedWings(puppet: Puppet): Puppet {
  return ['Wing near', 'Wing far'].reduce((before, name) => {
    const part = partNamed(before, name)
    const id = `pins-${name.toLowerCase().replace(' ', '-')}`
    const pins = pinMesh(before, part, id, 'Feathers')
    const box = boundsOf(pins.vertices)
    const at = (u: number, v: number): Vec => nearest(pins.vertices, box.x + u * box.width, box.y + v * box.height)
    const pin = (k: number, spot: Vec, more: Partial<Pin> = {}): Pin => ({
      id: `${id}.${k}`,
      kind: 'pin',
      at: spot,
      end: null,
      held: true,
      turns: true,
      radius: 0,
      depth: 0,
      ...more,
    })
    const list = [
      pin(1, at(0.2, 0.2)),
      pin(2, at(0.95, 0.6)),
      pin(3, at(0.6, 0.95)),
      pin(4, at(0.3, 0.15), { kind: 'splint', end: at(0.75, 0.35), held: false }),
    ]
    return run(before, addDeformer, { part, deformer: { ...pins, pins: list } })
  }, puppet)
}

function boundsOf(vertices: readonly number[]): { x: number; y: number; width: number; height: number } {
  const xs = vertices.filter((_, i) => i % 2 === 0)
  const ys = vertices.filter((_, i) => i % 2 === 1)
  const [x, y] = [Math.min(...xs), Math.min(...ys)]
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y }
}

/** The vertex nearest to a spot: pins stay inside the mesh. */
function nearest(vertices: readonly number[], x: number, y: number): Vec {
  let best = { x: vertices[0]!, y: vertices[1]! }
  for (let i = 2; i < vertices.length; i += 2) {
    const v = { x: vertices[i]!, y: vertices[i + 1]! }
    if (Math.hypot(v.x - x, v.y - y) < Math.hypot(best.x - x, best.y - y)) best = v
  }
  return best
}
