/** Springs of a puppet as arrays, in the order of its bones: parents before children. */
import type { BoneTable } from '../bones/table'
import { skeletonHeight } from '../bones/tree'
import { toRadians } from '../maths/geometry/affine'
import { distanceToPolyline } from '../maths/geometry/polyline'
import { STEP, STEP_SIZE, ratesOf, writeStep } from '../maths/solve/oscillator'
import { slotOf, type Slots } from '../kernel/slots'
import type { Puppet } from '../puppet/schema'
import type { Collider, SpringGroup } from './records'

/** Gravity on a figure as tall as a person, heights a second squared. */
const FALL = 9.81 / 1.7

/** Numbers of the state of a spring: offset and its speed, place and speed of the drive, force without air. */
export const SPRING_STATE = 10

export interface SpringTable {
  /** [s] which bone each moves */
  readonly bone: Int32Array
  /** [b] which spring moves a bone; -1 for none */
  readonly of: Int32Array
  /** [m] bones that springs move or that hang from such, parents first */
  readonly moved: Int32Array
  /** [s] slot of the amount of its group; throw with the share that its place in the chain leaves */
  readonly amount: Int32Array
  readonly throws: Float64Array
  readonly stretch: Float64Array
  /** [s] decay and stiffness, 1/s and 1/s² */
  readonly decay: Float64Array
  readonly stiffness: Float64Array
  /** [8s] numbers of a step */
  readonly step: Float64Array
  readonly drag: Float64Array
  /** [s] px a second squared, of gravity and of the mean wind */
  readonly gravity: Float64Array
  readonly wind: Float64Array
  /** Where the wind blows to on the canvas, and how it comes and goes. */
  readonly blows: { readonly x: number; readonly y: number; readonly gusts: number; readonly seed: number }
  readonly colliders: ColliderTable
}

/** What springs keep out of. */
export interface ColliderTable {
  /** [c] the bone of a capsule; -1 for the ground */
  readonly bone: Int32Array
  /** [c] height of the ground, canvas px down */
  readonly y: Float64Array
  /** [s*c] how near the end of a spring's bone may come, px; 0 where it may go anywhere */
  readonly reach: Float64Array
}

/** The place of each bone in the chain of its group, 0 at its root to 1 at its tip; those of bones without one say nothing. */
function placesInChains({ parent }: BoneTable, groupOf: Int32Array): Float64Array {
  const count = parent.length
  const isLinked = (b: number): boolean => groupOf[b]! >= 0 && parent[b]! >= 0 && groupOf[parent[b]!] === groupOf[b]
  const above = new Int32Array(count)
  for (let b = 0; b < count; b++) if (isLinked(b)) above[b] = above[parent[b]!]! + 1
  // The longest way down among its group.
  const below = new Int32Array(count)
  for (let b = count - 1; b >= 0; b--) if (isLinked(b)) below[parent[b]!] = Math.max(below[parent[b]!]!, below[b]! + 1)
  return Float64Array.from(above, (links, b) => (links + below[b]! === 0 ? 1 : links / (links + below[b]!)))
}

/** Springs of a puppet as arrays; those that are muted are not among them. */
export function compileSprings(
  puppet: Pick<Puppet, 'bones' | 'springs' | 'wind' | 'colliders'>,
  bones: BoneTable,
  slots: Slots,
): SpringTable {
  const count = bones.ids.length
  const groupOf = new Int32Array(count).fill(-1)
  puppet.springs.forEach(({ bones: swung, muted }, g) => {
    if (muted) return
    for (const id of swung) {
      const b = bones.index.get(id)
      if (b !== undefined) groupOf[b] = g
    }
  })
  const bone = Int32Array.from(bones.ids.flatMap((_, b) => (groupOf[b]! >= 0 ? [b] : [])))
  const of = new Int32Array(count).fill(-1)
  bone.forEach((b, s) => (of[b] = s))
  const group = Int32Array.from(bone, (b) => groupOf[b]!)
  const moved: number[] = []
  const isMoved = new Uint8Array(count)
  for (let b = 0; b < count; b++) {
    const p = bones.parent[b]!
    if (of[b]! < 0 && (p < 0 || isMoved[p] === 0)) continue
    isMoved[b] = 1
    moved.push(b)
  }
  const settings = Array.from(group, (g) => puppet.springs[g]!)
  const rates = settings.map((s) => ratesOf(s.tempo, s.settle))
  const step = new Float64Array(STEP_SIZE * bone.length)
  rates.forEach((one, s) => writeStep(one, STEP, step, STEP_SIZE * s))
  const places = placesInChains(bones, groupOf)
  const fall = FALL * skeletonHeight(puppet)
  const angle = toRadians(puppet.wind.direction)
  return {
    bone,
    of,
    moved: Int32Array.from(moved),
    amount: Int32Array.from(group, (g) => slotOf(slots, 'spring', g)),
    throws: Float64Array.from(settings, (s, k) => s.throw * (s.root + (1 - s.root) * places[bone[k]!]! ** s.bend)),
    stretch: Float64Array.from(settings, (s) => s.stretch),
    decay: Float64Array.from(rates, (r) => r.decay),
    stiffness: Float64Array.from(rates, (r) => r.stiffness),
    step,
    drag: Float64Array.from(settings, (s) => s.drag),
    gravity: Float64Array.from(settings, (s) => s.gravity * fall),
    wind: Float64Array.from(settings, (s) => s.wind * puppet.wind.strength * fall),
    blows: { x: Math.cos(angle), y: -Math.sin(angle), gusts: puppet.wind.gusts, seed: puppet.wind.seed },
    colliders: compileColliders(puppet.colliders, bones, bone, settings),
  }
}

function compileColliders(all: readonly Collider[], bones: BoneTable, swung: Int32Array, settings: readonly SpringGroup[]): ColliderTable {
  const list = all.filter((c) => c.kind === 'ground' || bones.index.has(c.bone))
  const bone = Int32Array.from(list, (c) => (c.kind === 'ground' ? -1 : bones.index.get(c.bone)!))
  const reach = new Float64Array(swung.length * list.length)
  swung.forEach((b, s) => {
    const { collides, girth } = settings[s]!
    if (!collides) return
    list.forEach((c, k) => {
      // What the drawing shows touching, or inside, may stay so.
      const [x, y] = [bones.end[2 * b]!, bones.end[2 * b + 1]!]
      const away = c.kind === 'ground' ? c.y - y : distanceToBone(bones, bone[k]!, x, y)
      const wanted = c.kind === 'ground' ? girth : c.radius + girth
      const isOwn = c.kind === 'capsule' && bone[k] === b
      reach[s * list.length + k] = isOwn || away <= 0 ? 0 : Math.max(1e-9, Math.min(wanted, away))
    })
  })
  return { bone, y: Float64Array.from(list, (c) => (c.kind === 'ground' ? c.y : 0)), reach }
}

/** How far a spot at rest is from a bone, px. */
const distanceToBone = ({ start, end }: BoneTable, b: number, x: number, y: number): number =>
  distanceToPolyline([start[2 * b]!, start[2 * b + 1]!, end[2 * b]!, end[2 * b + 1]!], false, x, y)
