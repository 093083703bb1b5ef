/** Findings about bones and deformers that have lost their form: they move nothing, or not what they seem to. */
import type { Bone, Deformer, Part, Puppet } from '../document/schema'
import type { Finding } from './report'

/** Distance, px, below which two spots count as one. */
const ONE = 0.5
/** Area, px², below which a triangle counts as flat. */
const FLAT = 1e-3

const isNear = (a: { x: number; y: number }, b: { x: number; y: number }): boolean => Math.hypot(a.x - b.x, a.y - b.y) < ONE

export const softFindings = (puppet: Puppet): Finding[] => [
  ...Object.values(puppet.bones).flatMap(boneFindings),
  ...Object.values(puppet.parts).flatMap((part) => part.deformers.flatMap((d) => deformerFindings(part, d))),
]

function boneFindings({ id, name, start, end }: Bone): Finding[] {
  if (!isNear(start, end)) return []
  return [
    { code: 'bone-without-length', bench: 'bones', target: { kind: 'bone', id, name }, message: 'has no length, and so no direction' },
  ]
}

function deformerFindings({ id, name }: Part, d: Deformer): Finding[] {
  const message = faultOf(d)
  return message === null
    ? []
    : [{ code: 'deformer-degenerate', bench: 'shape', target: { kind: 'part', id, name }, message: `${message} (${d.name})` }]
}

/** What is wrong with a deformer, to go on after the name of its part; null where nothing is. */
function faultOf(d: Deformer): string | null {
  if (d.kind === 'cage') return d.box.width < ONE || d.box.height < ONE ? 'has a cage without breadth or height' : null
  if (d.kind === 'bend')
    return d.points.some((p, i) => i > 0 && isNear(p.at, d.points[i - 1]!.at)) ? 'has a bend with two points on one spot' : null
  const held = d.pins.filter((p) => p.held)
  if (held.some((p, i) => held.slice(0, i).some((q) => isNear(p.at, q.at) && isNear(p.end ?? p.at, q.end ?? q.at))))
    return 'has two pins on one spot'
  return hasFlatTriangle(d.vertices, d.triangles) ? 'has pins in a mesh with flat triangles' : null
}

function hasFlatTriangle(v: readonly number[], triangles: readonly number[]): boolean {
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [2 * triangles[t]!, 2 * triangles[t + 1]!, 2 * triangles[t + 2]!]
    const area = (v[b]! - v[a]!) * (v[c + 1]! - v[a + 1]!) - (v[b + 1]! - v[a + 1]!) * (v[c]! - v[a]!)
    if (Math.abs(area) / 2 < FLAT) return true
  }
  return false
}
