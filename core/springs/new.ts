/** Springs as they are made. */
import type { SpringCharacter } from './characters'
import type { Collider, SpringGroup, Wind } from './records'

/** A group of bones with a character of movement. */
export const newSpringGroup = (
  id: string,
  name: string,
  bones: readonly string[],
  { nature: given }: Pick<SpringCharacter, 'nature'>,
  colour = '#1e7a6b',
): SpringGroup => ({ id, name, colour, bones: [...bones], ...given, amount: 1, muted: false, collides: true, girth: 0 })

/** No wind. */
export const CALM: Wind = { direction: 0, strength: 0, gusts: 0.5, seed: 1 }

export const newCapsule = (id: string, name: string, bone: string, radius: number): Collider => ({
  kind: 'capsule',
  id,
  name,
  bone,
  radius,
})
