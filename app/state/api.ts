/** Typed client of the server. */
import { hc } from 'hono/client'
import type { Api } from '@marionette/server/app'
import type { Puppet } from '@marionette/core/document/schema'
import { readPuppet } from '@marionette/core/document/migrate'
import type { PuppetSummary } from '@marionette/server/puppetStore'

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

export const thumbnailUrl = (puppet: Pick<PuppetSummary, 'id' | 'revision'>): string =>
  `/api/puppets/${puppet.id}/thumbnail?revision=${puppet.revision}`
