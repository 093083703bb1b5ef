/**
 * Heavy work of the server, away from the thread that answers requests.
 *
 * Each kind of work has limits of time and memory; work that goes beyond them is ended with its worker, and the request is
 * refused in a sentence. Nothing that a client sends is parsed on the main thread.
 */
import { ApiError } from '../errors'
import type { BackupRequest, Written } from '../backup/write'
import type { Restored, RestoreRequest } from '../backup/restore'
import type { Checked, Copying } from './check'

export interface Jobs {
  /** Checks the body of a request that carries a document. Throws ApiError. */
  checkBody(bytes: Uint8Array): Promise<Checked & { readonly before: string | null }>
  /** Brings a stored document up to the present version. Throws ApiError. */
  check(text: string): Promise<Checked>
  copy(text: string, copying: Copying): Promise<Checked>
  /** PNG of a document. Throws ApiError. */
  thumbnail(text: string, assets: ReadonlyMap<string, Uint8Array>): Promise<Uint8Array>
  backup(request: BackupRequest): Promise<Written>
  /** Reads and checks a backup into a file of its own; the library is not touched. Throws ApiError. */
  prepareRestore(request: RestoreRequest): Promise<void>
  /** Takes what was prepared into the library, whole or not at all. */
  commitRestore(request: RestoreRequest): Promise<Restored>
  close(): Promise<void>
}

/** A refusal as it travels between threads. */
export interface Refusal {
  readonly refused: { readonly status: number; readonly code: string; readonly message: string; readonly details: Record<string, unknown> }
}

export const refusalOf = ({ status, code, message, details }: ApiError): Refusal => ({ refused: { status, code, message, details } })

export const isRefusal = (value: unknown): value is Refusal => typeof value === 'object' && value !== null && 'refused' in value
