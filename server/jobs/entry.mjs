/** Where a worker begins: a thread of its own needs the loader of TypeScript anew. */
import { register } from 'tsx/esm/api'

register()
const work = await import('./worker.ts')

export const { checkBody, check, copy, thumbnail, backup, prepareRestore, commitRestore } = work
