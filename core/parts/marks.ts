/** Commands on what people note on parts: roles, locks, colour tags, comments. */
import { z } from 'zod'
import { PartId } from '../kernel/ids'
import { partOf } from './lookup'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { TAGS } from './records'

/** A list of at least one part. */
export const some = z.array(PartId).min(1)

/** Locks or unlocks parts. */
export const lockPart = command(
  'part.lock',
  'Lock or unlock part',
  z.object({ parts: some, locked: z.boolean() }),
  (puppet, { parts, locked }) => {
    if (parts.includes(puppet.root)) throw new EditError('The topmost part cannot be locked: everything hangs from it.')
    for (const part of parts) partOf(puppet, part).locked = locked
  },
)

/** Tags parts with a colour, or takes their tags away. */
export const tagPart = command(
  'part.tag',
  'Change colour tag',
  z.object({ parts: some, tag: z.number().int().min(0).max(TAGS) }),
  (puppet, { parts, tag }) => {
    for (const part of parts) partOf(puppet, part).tag = tag
  },
)

/** Sets the comment of a part. */
export const commentPart = command(
  'part.comment',
  'Change comment',
  z.object({ part: PartId, comment: z.string().max(2000) }),
  (puppet, { part, comment }) => {
    partOf(puppet, part).comment = comment
  },
)
