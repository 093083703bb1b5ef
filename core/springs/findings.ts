/** Springs that nothing drives. */
import type { Finding, Inspect } from '../kernel/finding'
import { boneOf } from '../bones/lookup'

/** Groups whose first bone hangs from nothing: no motion ever reaches it. */
export const undrivenSprings: Inspect = (puppet) =>
  puppet.springs.flatMap((spring): Finding[] => {
    if (spring.muted) return []
    return spring.bones
      .filter((id) => boneOf(puppet, id).parent === null)
      .map((id) => {
        const { name } = boneOf(puppet, id)
        const others = spring.bones.length > 1
        return {
          ...{ code: 'spring-undriven', gravity: 2, bench: 'bones', target: { kind: 'bone', id, name } },
          message: others
            ? `is driven by nothing, so that ${spring.name} never swings from it: leave ${name} out of the group`
            : `is driven by nothing, so that ${spring.name} never swings: hang it from a bone that moves`,
        }
      })
  })
