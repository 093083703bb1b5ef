/** Commands on what people note on parts: roles, locks, colour tags, comments. */
import { z } from 'zod'
import { PartId } from '../document/ids'
import { TAGS } from '../document/schema'
import { RoleKey } from '../template/template'
import { command, EditError } from './command'
import { partOf } from './lookup'

const some = z.array(PartId).min(1)

export const setRole = command(
  'part.role',
  'Change role',
  z.object({ parts: some, role: RoleKey.nullable() }),
  (puppet, { parts, role }) => {
    for (const part of parts) partOf(puppet, part).role = role
  },
)

export const lockPart = command(
  'part.lock',
  'Lock or unlock part',
  z.object({ parts: some, locked: z.boolean() }),
  (puppet, { parts, locked }) => {
    if (parts.includes(puppet.root)) throw new EditError('The topmost part cannot be locked: everything hangs from it.')
    for (const part of parts) partOf(puppet, part).locked = locked
  },
)

export const tagPart = command(
  'part.tag',
  'Change colour tag',
  z.object({ parts: some, tag: z.number().int().min(0).max(TAGS) }),
  (puppet, { parts, tag }) => {
    for (const part of parts) partOf(puppet, part).tag = tag
  },
)

export const commentPart = command(
  'part.comment',
  'Change comment',
  z.object({ part: PartId, comment: z.string().max(2000) }),
  (puppet, { part, comment }) => {
    partOf(puppet, part).comment = comment
  },
)
