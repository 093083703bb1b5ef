/** Typed client of the server. */
import { hc } from 'hono/client'
import type { Api } from '@marionette/server/app'
import { withPuppetId } from '@marionette/core/puppet/renamed'
import type { Puppet } from '@marionette/core/puppet/schema'
import { readPuppet } from '@marionette/core/puppet/migrate'
import type { KeptMotion } from '@marionette/core/motions/kept'
import type { Template } from '@marionette/core/templates/template'
import type { Restored } from '@marionette/server/backup/restore'
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
    /** Of a conflict: what is there now, and what the save that made it was called. */
    readonly revision: number | null = null,
    readonly saveId: string | null = null,
  ) {
    super(message)
  }
}

/** Longest that an answer is waited for, ms; then it counts as lost. */
const PATIENCE = 60_000

interface Answer {
  readonly ok: boolean
  readonly status: number
  json(): Promise<unknown>
}

/** Waits for an answer and turns refusals into RequestError; one that is cut off, or is none of ours, counts as no answer. */
async function answered<T>(request: Promise<Answer>): Promise<T> {
  let answer: Answer
  let body: { message?: string; revision?: number; saveId?: string | null }
  try {
    answer = await request
    if (answer.status === 204) return undefined as T
    body = (await answer.json()) as typeof body
  } catch {
    throw new RequestError(0, 'The server does not answer.')
  }
  if (answer.ok) return body as T
  if (answer.status === 401) signedOut()
  throw new RequestError(
    answer.status,
    body.message ?? `The server answered with ${answer.status}.`,
    body.revision ?? null,
    body.saveId ?? null,
  )
}

const send = (path: string, method: string, body: BodyInit, headers: Record<string, string> = {}): Promise<Response> =>
  fetch(path, { method, body, headers, signal: AbortSignal.timeout(PATIENCE) })
const JSON_TYPE = { 'Content-Type': 'application/json' }

export const listPuppets = (): Promise<PuppetSummary[]> => answered(client.puppets.$get())
export const createPuppet = (name: string): Promise<PuppetSummary> => answered(client.puppets.$post({ json: { name } }))
export const importPuppet = (document: Puppet): Promise<PuppetSummary> =>
  answered(send('/api/puppets/import', 'POST', JSON.stringify({ document }), JSON_TYPE))
export const renameStored = (id: string, name: string): Promise<PuppetSummary> =>
  answered(client.puppets[':id'].$patch({ param: { id }, json: { name } }))
export const duplicatePuppet = (id: string): Promise<PuppetSummary> => answered(client.puppets[':id'].duplicate.$post({ param: { id } }))
export const removePuppet = (id: string): Promise<void> => answered(client.puppets[':id'].$delete({ param: { id } }))
export const restorePuppet = (id: string): Promise<PuppetSummary> => answered(client.puppets[':id'].restore.$post({ param: { id } }))

export interface Loaded {
  readonly puppet: Puppet
  readonly revision: number
  /** What the save that made this revision was called. */
  readonly saveId: string | null
}

export async function loadPuppet(id: string): Promise<Loaded> {
  const loaded = await answered<{ puppet: unknown; revision: number; saveId: string | null }>(
    client.puppets[':id'].$get({ param: { id } }) as unknown as Promise<Answer>,
  )
  return { ...loaded, puppet: readPuppet(loaded.puppet) }
}

/** A document on its way to the server: what it is based on, and a name by which the server knows it again. */
export interface Sending {
  readonly puppet: Puppet
  readonly base: number
  readonly saveId: string
  /** Whether somebody went back to an earlier version since the last save. */
  readonly wentBack: boolean
}

export const savePuppet = ({ puppet, base, saveId, wentBack }: Sending): Promise<PuppetSummary> =>
  answered(
    send(`/api/puppets/${puppet.id}`, 'PUT', JSON.stringify({ document: puppet, ...(wentBack && { before: 'restore' }) }), {
      ...JSON_TYPE,
      'If-Match': `"${base}"`,
      'Save-Id': saveId,
    }),
  )

export const listTrash = (): Promise<PuppetSummary[]> => answered(client.trash.$get())
export const purgePuppet = (id: string): Promise<void> => answered(client.trash[':id'].$delete({ param: { id } }))

export const listRevisions = (id: string): Promise<{ present: number; revisions: RevisionSummary[] }> =>
  answered(client.puppets[':id'].revisions.$get({ param: { id } }))
export const nameRevision = (id: string, revision: number, name: string | null): Promise<void> =>
  answered(client.puppets[':id'].revisions[':revision'].$patch({ param: { id, revision: String(revision) }, json: { name } }))
export async function loadRevision(id: string, revision: number): Promise<Puppet> {
  const { puppet } = await answered<{ puppet: unknown }>(
    client.puppets[':id'].revisions[':revision'].$get({ param: { id, revision: String(revision) } }) as unknown as Promise<Answer>,
  )
  // Versions of a puppet that came back as a copy still carry the id that it had.
  return readPuppet(withPuppetId(puppet as object, id))
}
export const revisionUrl = (id: string, revision: number): string => `/api/puppets/${id}/revisions/${revision}/thumbnail`

export const listTemplates = (): Promise<Template[]> => answered(client.templates.$get())
export const saveTemplate = (template: Template): Promise<void> => answered(client.templates.$post({ json: template }))
export const removeTemplate = (id: string): Promise<void> => answered(client.templates[':id'].$delete({ param: { id } }))

export const listMotions = (): Promise<KeptMotion[]> => answered(client.motions.$get())
export const saveMotion = (motion: KeptMotion): Promise<void> => answered(client.motions.$post({ json: motion }))
export const removeMotion = (id: string): Promise<void> => answered(client.motions[':id'].$delete({ param: { id } }))

export const sendAsset = (hash: string, bytes: Uint8Array): Promise<void> =>
  answered(send(`/api/assets/${hash}`, 'PUT', bytes as Uint8Array<ArrayBuffer>))
/** Says which pictures are needed, so that they stay; returns those that the library does not have. */
export const needAssets = async (hashes: readonly string[]): Promise<string[]> =>
  (await answered<{ missing: string[] }>(client.assets.needed.$post({ json: { hashes: [...hashes] } }))).missing
export async function fetchAsset(hash: string): Promise<Uint8Array> {
  const answer = await fetch(`/api/assets/${hash}`).catch(() => null)
  if (!answer?.ok) throw new RequestError(answer?.status ?? 0, 'A picture of the puppet cannot be fetched.')
  return new Uint8Array(await answer.arrayBuffer())
}

export const BACKUP_URL = '/api/backup'
export const restoreLibrary = (file: File): Promise<Restored> => answered(fetch(BACKUP_URL, { method: 'POST', body: file }))

export interface Session {
  readonly needed: boolean
  readonly signedIn: boolean
}
export const readSession = (): Promise<Session> => answered(client.session.$get())
export const signIn = (passcode: string): Promise<Session> => answered(client.session.$post({ json: { passcode } }))
export const signOut = (): Promise<void> => answered(client.session.$delete())

const SIGNED_OUT = 'marionette-signed-out'
/** Called when the server asks for the passcode. */
export function onSignedOut(listener: () => void): () => void {
  window.addEventListener(SIGNED_OUT, listener)
  return () => window.removeEventListener(SIGNED_OUT, listener)
}
const signedOut = (): void => void globalThis.dispatchEvent?.(new Event(SIGNED_OUT))

export const thumbnailUrl = (puppet: Pick<PuppetSummary, 'id' | 'revision'>): string =>
  `/api/puppets/${puppet.id}/thumbnail?revision=${puppet.revision}`
