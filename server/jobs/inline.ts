/** The same work in the thread that asks for it: for the shell, where nobody waits beside it, and for tests. */
import { commitRestore, prepareRestore } from '../backup/restore'
import { writeBackup } from '../backup/write'
import { checkBody, checkDocument, copyDocument } from './check'
import type { Jobs } from './jobs'
import { drawThumbnail } from './thumbnail'

export const inlineJobs: Jobs = {
  checkBody: async (bytes) => checkBody(bytes),
  check: async (text) => checkDocument(JSON.parse(text)),
  copy: async (text, copying) => copyDocument(text, copying),
  thumbnail: drawThumbnail,
  backup: writeBackup,
  prepareRestore,
  commitRestore,
  close: async () => undefined,
}
