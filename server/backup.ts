/**
 * The whole library as one file and back.
 *
 * A backup is a zip of `library.json` (what is in it), `puppets/<id>.json`, `trash/<id>.json`, `versions/<id>/<n>.json`
 * for versions with a name, and `assets/<sha256>`. Bringing one back overwrites nothing: what is there already with
 * the same content is passed over, what differs comes in as a copy.
 */
import { createHash } from 'node:crypto'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { z } from 'zod'
import { freshId } from '@marionette/core/document/ids'
import { PuppetError } from '@marionette/core/document/invariants'
import { canonicalJson } from '@marionette/core/document/json'
import { readPuppet } from '@marionette/core/document/migrate'
import type { Puppet } from '@marionette/core/document/schema'
import { assetsOf } from '@marionette/core/document/tree'
import { FormatError } from '@marionette/formats/warnings'
import { ApiError } from './errors'
import type { PuppetStore } from './puppetStore'

const Contents = z.object({
  format: z.literal('eager-marionette/library'),
  version: z.literal(1),
  puppets: z.array(
    z.object({
      id: z.string(),
      where: z.enum(['puppets', 'trash']),
      versions: z.array(z.object({ revision: z.number().int(), name: z.string() })),
    }),
  ),
})

export interface Backup {
  readonly puppets: readonly {
    readonly puppet: Puppet
    readonly inTrash: boolean
    readonly versions: readonly { name: string; puppet: Puppet }[]
  }[]
  readonly assets: ReadonlyMap<string, Uint8Array>
}

export interface Restored {
  readonly added: number
  /** Those that differ from what is there under the same id. */
  readonly copied: number
  readonly unchanged: number
}

/** Largest sum of files that is unpacked. */
const LARGEST = 2 * 1024 * 1024 * 1024

/** Writes everything that the library holds. What cannot be read any more is left out if `spare` takes its name. */
export async function writeBackup(store: PuppetStore, spare?: (name: string) => void): Promise<Uint8Array> {
  const files: Record<string, Uint8Array> = {}
  const contents: z.infer<typeof Contents> = { format: 'eager-marionette/library', version: 1, puppets: [] }
  for (const where of ['puppets', 'trash'] as const) {
    const kind = where === 'trash' ? 'trash' : 'library'
    for (const { id, name } of spare ? await store.salvage(kind, spare) : await store.list(kind)) {
      try {
        const { puppet } = await store.get(id, where === 'trash')
        const named = (await store.revisions.list(id)).filter((r) => r.name !== null)
        for (const { revision } of named)
          files[`versions/${id}/${revision}.json`] = strToU8(canonicalJson(await store.revisions.get(id, revision)))
        files[`${where}/${id}.json`] = strToU8(canonicalJson(puppet))
        for (const [hash, bytes] of await store.assets.read(assetsOf(puppet))) files[`assets/${hash}`] = bytes
        contents.puppets.push({ id, where, versions: named.map((r) => ({ revision: r.revision, name: r.name! })) })
      } catch (error) {
        if (!spare) throw error
        spare(name)
      }
    }
  }
  files['library.json'] = strToU8(JSON.stringify(contents, null, 2))
  return zipSync(files, { level: 6 })
}

/** Reads a backup. Throws FormatError with one sentence. */
export function readBackup(bytes: Uint8Array): Backup {
  const files = unpack(bytes)
  const listed = files['library.json']
  if (!listed) throw new FormatError('This file is no backup of a library: it has no library.json.')
  const parsed = Contents.safeParse(readJson(listed, 'library.json'))
  if (!parsed.success) throw new FormatError('The backup is damaged, or was made by a newer version: its library.json does not fit.')
  const puppets = parsed.data.puppets.map(({ id, where, versions }) => ({
    puppet: readDocument(files, `${where}/${id}.json`),
    inTrash: where === 'trash',
    versions: versions.map(({ revision, name }) => ({ name, puppet: readDocument(files, `versions/${id}/${revision}.json`) })),
  }))
  const assets = new Map<string, Uint8Array>()
  for (const [name, asset] of Object.entries(files)) {
    const hash = /^assets\/([0-9a-f]{64})$/.exec(name)?.[1]
    if (hash && createHash('sha256').update(asset).digest('hex') !== hash)
      throw new FormatError('The backup is damaged: a picture in it was changed.')
    if (hash) assets.set(hash, asset)
  }
  return { puppets, assets }
}

function unpack(bytes: Uint8Array): Record<string, Uint8Array> {
  let room = LARGEST
  let files: Record<string, Uint8Array>
  try {
    files = unzipSync(bytes, { filter: (file) => (room -= file.originalSize) >= 0 })
  } catch {
    throw new FormatError('This file is no backup of a library, or it is damaged: it cannot be unpacked.')
  }
  if (room < 0) throw new FormatError('The backup is too large to be unpacked.')
  return files
}

function readJson(bytes: Uint8Array, name: string): unknown {
  try {
    return JSON.parse(strFromU8(bytes))
  } catch {
    throw new FormatError(`The backup is damaged: its ${name} is not readable.`)
  }
}

function readDocument(files: Record<string, Uint8Array>, name: string): Puppet {
  const file = files[name]
  if (!file) throw new FormatError(`The backup is damaged: ${name} is missing in it.`)
  try {
    return readPuppet(readJson(file, name))
  } catch (error) {
    if (error instanceof PuppetError) throw new FormatError(`The backup is damaged: ${name} holds no sound puppet.`)
    throw error
  }
}

/** Brings a backup into the library; overwrites nothing. */
export async function restoreBackup(store: PuppetStore, { puppets, assets }: Backup): Promise<Restored> {
  for (const [hash, bytes] of assets) await store.assets.add(hash, bytes)
  const out = { added: 0, copied: 0, unchanged: 0 }
  for (const { puppet, inTrash, versions } of puppets) {
    const present = await presentOf(store, puppet.id)
    if (present && canonicalJson(present) === canonicalJson(puppet)) {
      out.unchanged++
      continue
    }
    const { id } = await addWithVersions(store, present ? { ...puppet, id: freshId('puppet') } : puppet, versions)
    if (inTrash) await store.remove(id)
    if (present) out.copied++
    else out.added++
  }
  return out
}

async function presentOf(store: PuppetStore, id: string): Promise<Puppet | null> {
  try {
    return (await store.get(id, true)).puppet
  } catch (error) {
    if (error instanceof ApiError && error.status === 404) return null
    throw error
  }
}

/** Adds a puppet after its named versions, oldest first, so that each stands in its list of versions. */
async function addWithVersions(
  store: PuppetStore,
  puppet: Puppet,
  versions: Backup['puppets'][number]['versions'],
): Promise<{ id: string }> {
  const steps = [...versions.map((v) => ({ name: v.name, puppet: { ...v.puppet, id: puppet.id } })), { name: null, puppet }]
  let revision = 0
  for (const step of steps) {
    const saved = revision === 0 ? await store.add(step.puppet) : await store.save(puppet.id, step.puppet, revision)
    revision = saved.revision
    if (step.name !== null) await store.revisions.name(puppet.id, revision, step.name)
  }
  return { id: puppet.id }
}
