/** The puppet archive: a zip of `puppet.json`, `assets/<sha256>` and `thumbnail.png`. */
import { strFromU8, strToU8, zipSync } from 'fflate'
import { PuppetError } from '@marionette/core/puppet/invariants'
import { canonicalJson } from '@marionette/core/kernel/json'
import { readPuppet } from '@marionette/core/puppet/migrate'
import type { Puppet } from '@marionette/core/puppet/schema'
import { assetsOf } from '@marionette/core/parts/tree'
import { assetHash } from '../assets'
import { FormatError } from '../warnings'
import { openZip, type Zip } from '../zip'

export const ARCHIVE_EXTENSION = '.marionette'
export const ARCHIVE_TYPE = 'application/zip'

/** A fixed date, so that equal puppets give equal archives. */
const STAMP = new Date('2000-01-01T00:00:00Z')

export type Assets = ReadonlyMap<string, Uint8Array>

export interface Archive {
  readonly puppet: Puppet
  /** Bytes of raster pictures by their hash. */
  readonly assets: Assets
}

/** Writes an archive with those of the assets that the puppet uses. The thumbnail is PNG bytes. */
export function writeArchive(puppet: Puppet, assets: Assets = new Map(), thumbnail?: Uint8Array): Uint8Array {
  const files: Record<string, Uint8Array> = { 'puppet.json': strToU8(canonicalJson(puppet)) }
  for (const hash of assetsOf(puppet)) {
    const bytes = assets.get(hash)
    if (bytes) files[`assets/${hash}`] = bytes
  }
  if (thumbnail) files['thumbnail.png'] = thumbnail
  return zipSync(files, { level: 6, mtime: STAMP })
}

/** Largest puppet.json that is unpacked, and largest sum of assets, against archives that blow up. */
const LARGEST_DOCUMENT = 96 * 1024 * 1024
const LARGEST_ASSETS = 512 * 1024 * 1024

/** Reads an archive. Throws FormatError with one sentence. */
export const readArchive = (bytes: Uint8Array): Archive => readArchiveFrom(openZip(bytes))

/** Reads an archive of which the directory is known. */
export function readArchiveFrom(zip: Zip): Archive {
  const puppet = readDocument(zip.read('puppet.json', LARGEST_DOCUMENT))
  const assets = new Map<string, Uint8Array>()
  let room = LARGEST_ASSETS
  for (const hash of assetsOf(puppet)) {
    const asset = zip.read(`assets/${hash}`, room)
    room -= asset?.length ?? 0
    if (!asset) throw new FormatError('The archive is damaged: a picture or sound of the puppet is missing in it.')
    if (assetHash(asset) !== hash)
      throw new FormatError('The archive is damaged: something in it is not the one that the puppet was made with.')
    assets.set(hash, asset)
  }
  return { puppet, assets }
}

function readDocument(document: Uint8Array | null): Puppet {
  if (!document) throw new FormatError('This zip file is no puppet archive: it has no puppet.json.')
  let raw: unknown
  try {
    raw = JSON.parse(strFromU8(document))
  } catch {
    throw new FormatError('The archive is damaged: its puppet.json is not readable.')
  }
  try {
    return readPuppet(raw)
  } catch (error) {
    if (error instanceof PuppetError) throw new FormatError(`The archive holds no sound puppet: ${error.message}.`)
    throw error
  }
}
