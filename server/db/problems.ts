/** Troubles of the disk and the database file, in words that say what happened and what to do. */
import type { ContentfulStatusCode } from 'hono/utils/http-status'
import { recordOf } from '@marionette/core/kernel/sure'

interface Problem {
  readonly status: ContentfulStatusCode
  readonly code: string
  readonly message: string
}

const BACKUP = 'Take your work away as an archive, or export a backup once there is room.'

/** Result codes of SQLite and of the system that a person can do something about. */
const PROBLEMS: Readonly<Record<string, Problem>> = {
  SQLITE_FULL: {
    status: 507,
    code: 'storage.full',
    message: `The disk of the library is full, nothing was saved and nothing was lost. Free some space; saving goes on by itself. ${BACKUP}`,
  },
  ENOSPC: {
    status: 507,
    code: 'storage.full',
    message: `The disk of the library is full, nothing was saved and nothing was lost. Free some space; saving goes on by itself. ${BACKUP}`,
  },
  SQLITE_READONLY: {
    status: 503,
    code: 'storage.readonly',
    message:
      'The data folder of the library cannot be written, nothing was saved and nothing was lost. Give the server the right to write there; saving goes on by itself.',
  },
  SQLITE_CANTOPEN: {
    status: 503,
    code: 'storage.readonly',
    message:
      'The file of the library cannot be opened. Look whether the data folder is still there and may be written; saving goes on by itself.',
  },
  SQLITE_IOERR: {
    status: 503,
    code: 'storage.failed',
    message:
      'The disk of the library reports an error, nothing was saved. Keep this page open, take your work away as an archive, and have the disk looked at.',
  },
  SQLITE_CORRUPT: {
    status: 503,
    code: 'storage.damaged',
    message:
      'The file of the library is damaged, nothing was saved and it was left as it is. Keep this page open and take your work away as an archive; "npm run -s library -- rescue FILE" saves what can still be read.',
  },
  SQLITE_NOTADB: {
    status: 503,
    code: 'storage.damaged',
    message:
      'The file of the library is damaged, nothing was saved and it was left as it is. Keep this page open and take your work away as an archive; "npm run -s library -- rescue FILE" saves what can still be read.',
  },
  SQLITE_BUSY: {
    status: 503,
    code: 'storage.busy',
    message: 'Another program holds the library, nothing was saved. Saving goes on by itself once it lets go.',
  },
}

/** The code of the database or system inside an error, however deep it was wrapped. */
function codeOf(error: unknown): string | null {
  for (let at = error as { code?: unknown; original?: unknown; parent?: unknown; cause?: unknown } | undefined; at;) {
    if (typeof at.code === 'string' && at.code in PROBLEMS) return at.code
    const text = (at as { message?: unknown }).message
    const named = typeof text === 'string' ? Object.keys(PROBLEMS).find((code) => text.includes(code)) : undefined
    if (named) return named
    at = (at.original ?? at.parent ?? at.cause) as typeof at | undefined
  }
  return null
}

/** What a trouble with storage means for a request; null for other errors. */
export function storageProblem(error: unknown): Problem | null {
  const code = codeOf(error)
  return code === null ? null : recordOf(PROBLEMS, code)
}

export const storageMessage = (error: unknown): string | null => storageProblem(error)?.message ?? null
export const isDamage = (error: unknown): boolean => storageProblem(error)?.code === 'storage.damaged'
export const isFull = (error: unknown): boolean => storageProblem(error)?.code === 'storage.full'
