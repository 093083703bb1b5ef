/** Commands on roles and on names that say a side. */
import { z } from 'zod'
import { partOf } from '../parts/lookup'
import { command } from '../kernel/command'
import { RoleKey, Naming } from './records'
import { some } from '../parts/marks'
import { convertName } from './naming'

/** Says which role a part plays, or that it plays none. */
export const setRole = command(
  'part.role',
  'Change role',
  z.object({ parts: some, role: RoleKey.nullable() }),
  (puppet, { parts, role }) => {
    for (const part of parts) partOf(puppet, part).role = role
  },
)

/** Changes the naming convention with all names of parts and bones that say a side. */
export const convertNaming = command(
  'puppet.convertNaming',
  'Convert names of sides',
  z.object({ to: Naming, facing: z.enum(['left', 'right']) }),
  (puppet, { to, facing }) => {
    for (const thing of [...Object.values(puppet.parts), ...Object.values(puppet.bones)])
      thing.name = convertName(thing.name, puppet.naming, to, facing)
    puppet.naming = to
  },
)
