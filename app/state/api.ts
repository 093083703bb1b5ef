/** Typed client of the server. */
import { hc } from 'hono/client'
import type { Api } from '@marionette/server/app'
import type { Puppet } from '@marionette/core/document/schema'
import { readPuppet } from '@marionette/core/document/migrate'
import type { Template } from '@marionette/core/template/template'
import type { Restored } from '@marionette/server/backup'
import type { PuppetSummary } from '@marionette/server/puppetStore'
import type { RevisionSummary } from '@marionette/server/revisions'

export type { RevisionSummary } from '@marionette/server/revisions'
export type { PuppetSummary } from '@marionette/server/puppetStore'

const client = hc<Api>('/api')

/** A refusal of the server, or its absence (status 0). */
export class RequestError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly revision: number | null = null,
  ) {
    super(message)
  }
}

interface Answer {
  readonly ok: boolean
  readonly status: number
  json(): Promise<unknown>
}

/** Waits for an answer and turns refusals into RequestError. */
async function answered<T>(request: Promise<Answer>): Promise<T> {
  let answer: Answer
  try {
    answer = await request
  } catch {
    throw new RequestError(0, 'The server does not answer.')
  }
  if (answer.ok) return (answer.status === 204 ? undefined : await answer.json()) as T
  const body = (await answer.json().catch(() => ({}))) as { message?: string; revision?: number }
  throw new RequestError(answer.status, body.message ?? `The server answered with ${answer.status}.`, body.revision ?? null)
}

export const listPuppets = (): Promise<PuppetSummary[]> => answered(client.puppets.$get())
export const createPuppet = (name: string): Promise<PuppetSummary> => answered(client.puppets.$post({ json: { name } }))
export const importPuppet = (document: Puppet): Promise<PuppetSummary> => answered(client.puppets.import.$post({ json: { document } }))
export const renameStored = (id: string, name: string): Promise<PuppetSummary> =>
  answered(client.puppets[':id'].$patch({ param: { id }, json: { name } }))
export const duplicatePuppet = (id: string): Promise<PuppetSummary> => answered(client.puppets[':id'].duplicate.$post({ param: { id } }))
export const removePuppet = (id: string): Promise<void> => answered(client.puppets[':id'].$delete({ param: { id } }))
export const restorePuppet = (id: string): Promise<PuppetSummary> => answered(client.puppets[':id'].restore.$post({ param: { id } }))

export async function loadPuppet(id: string): Promise<{ puppet: Puppet; revision: number }> {
  const { puppet, revision } = await answered<{ puppet: unknown; revision: number }>(client.puppets[':id'].$get({ param: { id } }))
  return { puppet: readPuppet(puppet), revision }
}

export const savePuppet = (puppet: Puppet, revision: number): Promise<PuppetSummary> =>
  answered(
    client.puppets[':id'].$put({ param: { id: puppet.id }, json: { document: puppet } }, { headers: { 'If-Match': `"${revision}"` } }),
  )

export const listTrash = (): Promise<PuppetSummary[]> => answered(client.puppets.trash.$get())
export const purgePuppet = (id: string): Promise<void> => answered(client.puppets.trash[':id'].$delete({ param: { id } }))

export const listRevisions = (id: string): Promise<{ present: number; revisions: RevisionSummary[] }> =>
  answered(client.puppets[':id'].revisions.$get({ param: { id } }))
export const nameRevision = (id: string, revision: number, name: string | null): Promise<void> =>
  answered(client.puppets[':id'].revisions[':revision'].$patch({ param: { id, revision: String(revision) }, json: { name } }))
export async function loadRevision(id: string, revision: number): Promise<Puppet> {
  const { puppet } = await answered<{ puppet: unknown }>(
    client.puppets[':id'].revisions[':revision'].$get({ param: { id, revision: String(revision) } }),
  )
  return readPuppet(puppet)
}
export const revisionUrl = (id: string, revision: number): string => `/api/puppets/${id}/revisions/${revision}/thumbnail`

export const listTemplates = (): Promise<Template[]> => answered(client.templates.$get())
export const saveTemplate = (template: Template): Promise<void> => answered(client.templates.$post({ json: template }))
export const removeTemplate = (id: string): Promise<void> => answered(client.templates[':id'].$delete({ param: { id } }))

export const sendAsset = (hash: string, bytes: Uint8Array): Promise<void> =>
  answered(fetch(`/api/assets/${hash}`, { method: 'PUT', body: bytes as Uint8Array<ArrayBuffer> }))
export async function fetchAsset(hash: string): Promise<Uint8Array> {
  const answer = await fetch(`/api/assets/${hash}`).catch(() => null)
  if (!answer?.ok) throw new RequestError(answer?.status ?? 0, 'A picture of the puppet cannot be fetched.')
  return new Uint8Array(await answer.arrayBuffer())
}

export const BACKUP_URL = '/api/backup'
export const restoreLibrary = (file: File): Promise<Restored> => answered(fetch(BACKUP_URL, { method: 'POST', body: file }))

export const thumbnailUrl = (puppet: Pick<PuppetSummary, 'id' | 'revision'>): string =>
  `/api/puppets/${puppet.id}/thumbnail?revision=${puppet.revision}`
