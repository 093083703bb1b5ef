/** Checking a document that comes from outside: what the library needs to know of it, or why it is refused. */
import { PuppetError } from '@marionette/core/puppet/invariants'
import { withPuppetId } from '@marionette/core/puppet/renamed'
import { canonicalJson } from '@marionette/core/kernel/json'
import { readPuppet } from '@marionette/core/puppet/migrate'
import { freshId } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { assetsOf } from '@marionette/core/parts/tree'
import { run } from '@marionette/core/puppet/edit'
import { renamePuppet } from '@marionette/core/puppet/puppetCommands'
import { ApiError } from '../errors'
import { EditError } from '@marionette/core/kernel/errors'

/** A sound document of the present version, with what is filed beside it. */
export interface Checked {
  readonly id: string
  readonly name: string
  readonly note: string
  readonly parts: number
  readonly bones: number
  /** Canonical JSON of the puppet. */
  readonly document: string
  /** Hashes of the pictures that it is painted with. */
  readonly assets: readonly string[]
}

/** How a copy differs from the document that it is made of. */
export interface Copying {
  readonly id?: 'fresh'
  readonly name?: string
  readonly suffix?: string
}

/** What the library keeps of a puppet. */
export const checkedPuppet = (puppet: Puppet): Checked => ({
  id: puppet.id,
  name: puppet.name,
  note: puppet.note,
  // The topmost group is the puppet itself and is not counted.
  parts: Object.keys(puppet.parts).length - 1,
  bones: Object.keys(puppet.bones).length,
  document: canonicalJson(puppet),
  assets: [...assetsOf(puppet)],
})

/** Reads a document of any version. Throws ApiError 422 with what is wrong with it. */
export function checkDocument(data: unknown): Checked {
  try {
    return checkedPuppet(readPuppet(data))
  } catch (error) {
    if (error instanceof PuppetError) throw new ApiError(422, 'puppet.invalid', `The puppet is not sound: ${error.message}.`)
    throw error
  }
}

/** Reads the body of a request: `{ document, before? }` as JSON. Throws ApiError. */
export function checkBody(bytes: Uint8Array): Checked & { readonly before: string | null } {
  let body: unknown
  try {
    body = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes))
  } catch {
    throw new ApiError(400, 'request.invalid', 'The request cannot be read: it is no JSON.')
  }
  if (typeof body !== 'object' || body === null || !Object.hasOwn(body, 'document'))
    throw new ApiError(400, 'request.invalid', 'The request does not fit: it needs a document.')
  const { document, before } = body as { document: unknown; before?: unknown }
  return { ...checkDocument(document), before: before === 'restore' ? before : null }
}

/** A stored document as a copy of it. Throws ApiError. */
export function copyDocument(text: string, { id, name, suffix }: Copying): Checked {
  const puppet = JSON.parse(checkDocument(JSON.parse(text)).document) as Puppet
  const copy = id === 'fresh' ? withPuppetId(puppet, freshId('puppet')) : puppet
  try {
    const called = name ?? `${puppet.name}${suffix ?? ''}`.slice(0, 200)
    return checkedPuppet(called === puppet.name ? copy : run(copy, renamePuppet, { name: called }))
  } catch (error) {
    if (error instanceof EditError) throw new ApiError(422, 'puppet.name', error.message)
    throw error
  }
}
