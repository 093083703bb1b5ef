/** Conventions of names, and how roles are written. */
import { z } from 'zod'

/** From whose side left and right are meant, or whether limbs are near and far. */
export const Naming = z.enum(['viewer-side', 'character-side', 'near-far'])

export type Naming = z.infer<typeof Naming>

/** `upper-arm` or `upper-arm:left`; sides are the character's own. */
export const RoleKey = z.string().regex(/^[a-z0-9-]{1,60}(:(left|right))?$/, 'a role is written like upper-arm:left')
