/** What of demo puppets swings by itself, and what it keeps out of. */
import type { Puppet } from '@marionette/core/puppet/schema'
import { run } from '@marionette/core/puppet/edit'
import { sure } from '@marionette/core/kernel/sure'
import { addCollider, addSprings } from '@marionette/core/springs/commands'
import { characterOf } from '@marionette/core/springs/characters'
import { newCapsule, newSpringGroup } from '@marionette/core/springs/new'
import type { SpringGroup } from '@marionette/core/springs/records'

interface Swinging {
  readonly name: string
  readonly bones: readonly string[]
  readonly character: string
  readonly colour: string
  readonly given?: Partial<SpringGroup>
}

/** Lets bones swing, by their names. */
export function withSprings(
  puppet: Puppet,
  prefix: string,
  groups: readonly Swinging[],
  bodies: readonly { readonly bone: string; readonly radius: number }[] = [],
): Puppet {
  const boneNamed = (name: string): string => sure(Object.values(puppet.bones).find((b) => b.name === name)).id
  const swung = groups.reduce((p, { name, bones, character, colour, given }, k) => {
    const made = newSpringGroup(`${prefix}-spring-${k + 1}`, name, bones.map(boneNamed), characterOf(character), colour)
    return run(p, addSprings, { spring: { ...made, ...given } })
  }, puppet)
  return bodies.reduce(
    (p, { bone, radius }, k) => run(p, addCollider, { collider: newCapsule(`${prefix}-body-${k + 1}`, bone, boneNamed(bone), radius) }),
    swung,
  )
}
