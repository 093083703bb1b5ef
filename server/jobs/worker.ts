/** What a worker of the pool can do, by name. Refusals travel as values: an error loses its kind between threads. */
import type { MessagePort } from 'node:worker_threads'
import { commitRestore as commit, prepareRestore as prepare, type RestoreRequest } from '../backup/restore'
import { writeBackup, type BackupRequest } from '../backup/write'
import { ApiError } from '../errors'
import { checkBody as checkRequest, checkDocument, copyDocument, type Copying } from './check'
import { refusalOf } from './jobs'
import { drawThumbnail } from './thumbnail'

/** A task as the pool hands it over: it counts the time from when it is told that the work has begun. */
interface Task<A> {
  readonly argument: A
  readonly begun: MessagePort
}

const refusing =
  <A, R>(work: (argument: A) => R | Promise<R>) =>
  async ({ argument, begun }: Task<A>) => {
    begun.postMessage(null)
    begun.close()
    try {
      return await work(argument)
    } catch (error) {
      if (error instanceof ApiError) return refusalOf(error)
      throw error
    }
  }

export const checkBody = refusing((bytes: Uint8Array) => checkRequest(bytes))
export const check = refusing((text: string) => checkDocument(JSON.parse(text)))
export const copy = refusing(({ text, copying }: { text: string; copying: Copying }) => copyDocument(text, copying))
export const thumbnail = refusing(({ text, assets }: { text: string; assets: Map<string, Uint8Array> }) => drawThumbnail(text, assets))
export const backup = refusing((request: BackupRequest) => writeBackup(request))
export const prepareRestore = refusing((request: RestoreRequest) => prepare(request))
export const commitRestore = refusing((request: RestoreRequest) => commit(request))
