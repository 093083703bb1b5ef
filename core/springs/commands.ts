/** Commands on springs, on what they keep out of, and on the wind. */
import { z } from 'zod'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { BoneId, ColliderId, SpringId } from '../kernel/ids'
import { Name } from '../kernel/numbers'
import type { Puppet } from '../puppet/schema'
import { Collider, SpringGroup, Wind } from './records'

/** A group of springs. Throws EditError where there is none. */
export function springOf({ springs }: Pick<Puppet, 'springs'>, id: string): SpringGroup {
  const found = springs.find((spring) => spring.id === id)
  if (!found) throw new EditError(`There is no group of springs "${id}" in this puppet.`)
  return found
}

/** Takes bones out of all groups but one; a group without any goes. */
function leave(puppet: Puppet, bones: readonly string[], but: string): void {
  for (const spring of puppet.springs) if (spring.id !== but) spring.bones = spring.bones.filter((id) => !bones.includes(id))
  puppet.springs = puppet.springs.filter((spring) => spring.bones.length > 0)
}

function checkBones(puppet: Puppet, bones: readonly string[]): void {
  const missing = bones.find((id) => !puppet.bones[id])
  if (missing !== undefined) throw new EditError(`There is no bone "${missing}" in this puppet.`)
  if (new Set(bones).size < bones.length) throw new EditError('A bone stands in a group once.')
}

/** Adds a group of springs. Bones that swung in another one swing in this from now on. */
export const addSprings = command('spring.add', 'Add springs', z.object({ spring: SpringGroup }), (puppet, { spring }) => {
  if (puppet.springs.some(({ id }) => id === spring.id)) throw new EditError(`There is a group of springs "${spring.id}" already.`)
  checkBones(puppet, spring.bones)
  leave(puppet, spring.bones, spring.id)
  puppet.springs.push(spring)
})

/** Changes how a group of springs moves, what it is called, and which bones swing in it. */
export const setSprings = command(
  'spring.set',
  'Change springs',
  z.object({
    id: SpringId,
    ...SpringGroup.omit({ id: true, bones: true }).partial().shape,
    bones: z.array(BoneId).min(1).max(500).optional(),
  }),
  (puppet, { id, ...given }) => {
    const spring = springOf(puppet, id)
    if (given.bones) {
      checkBones(puppet, given.bones)
      leave(puppet, given.bones, id)
    }
    Object.assign(spring, Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)))
  },
)

/** Takes springs off; the bones stay. */
export const deleteSprings = command('spring.delete', 'Remove springs', z.object({ id: SpringId }), (puppet, { id }) => {
  puppet.springs.splice(puppet.springs.indexOf(springOf(puppet, id)), 1)
})

/** Sets the wind that blows on all springs. */
export const setWind = command('spring.wind', 'Change wind', z.object({ wind: Wind }), (puppet, { wind }) => {
  puppet.wind = wind
})

function colliderOf({ colliders }: Pick<Puppet, 'colliders'>, id: string): Collider {
  const found = colliders.find((collider) => collider.id === id)
  if (!found) throw new EditError(`There is no collider "${id}" in this puppet.`)
  return found
}

/** Adds something that springs do not go through. */
export const addCollider = command('collider.add', 'Add collider', z.object({ collider: Collider }), (puppet, { collider }) => {
  if (puppet.colliders.some(({ id }) => id === collider.id)) throw new EditError(`There is a collider "${collider.id}" already.`)
  if (collider.kind === 'capsule') checkBones(puppet, [collider.bone])
  puppet.colliders.push(collider)
})

/** Changes what a collider is called, how thick it is, or where the ground is. */
export const setCollider = command(
  'collider.set',
  'Change collider',
  z.object({ id: ColliderId, name: Name.optional(), radius: z.number().min(0.5).max(5000).optional(), y: z.number().optional() }),
  (puppet, { id, name, radius, y }) => {
    const collider = colliderOf(puppet, id)
    if (name !== undefined) collider.name = name
    if (collider.kind === 'capsule' && radius !== undefined) collider.radius = radius
    if (collider.kind === 'ground' && y !== undefined) collider.y = y
  },
)

/** Takes a collider away. */
export const deleteCollider = command('collider.delete', 'Remove collider', z.object({ id: ColliderId }), (puppet, { id }) => {
  puppet.colliders.splice(puppet.colliders.indexOf(colliderOf(puppet, id)), 1)
})
