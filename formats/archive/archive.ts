/** The puppet archive: a zip of `puppet.json` and `thumbnail.png`. */
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { PuppetError } from '@marionette/core/document/invariants'
import { canonicalJson } from '@marionette/core/document/json'
import { readPuppet } from '@marionette/core/document/migrate'
import type { Puppet } from '@marionette/core/document/schema'
import { FormatError } from '../warnings'

export const ARCHIVE_EXTENSION = '.puppet'
export const ARCHIVE_TYPE = 'application/zip'

/** A fixed date, so that equal puppets give equal archives. */
const STAMP = new Date('2000-01-01T00:00:00Z')

/** Writes an archive. The thumbnail is PNG bytes. */
export function writeArchive(puppet: Puppet, thumbnail?: Uint8Array): Uint8Array {
  const files: Record<string, Uint8Array> = { 'puppet.json': strToU8(canonicalJson(puppet)) }
  if (thumbnail) files['thumbnail.png'] = thumbnail
  return zipSync(files, { level: 6, mtime: STAMP })
}

/** Largest puppet.json that is unpacked, against archives that blow up. */
const LARGEST_DOCUMENT = 256 * 1024 * 1024

/** Reads an archive. Throws FormatError with one sentence. */
export function readArchive(bytes: Uint8Array): Puppet {
  const json = unpackDocument(bytes)
  let raw: unknown
  try {
    raw = JSON.parse(json)
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

function unpackDocument(bytes: Uint8Array): string {
  let tooLarge = false
  let files: Record<string, Uint8Array>
  try {
    files = unzipSync(bytes, {
      filter: (file) => {
        if (file.name !== 'puppet.json') return false
        tooLarge = file.originalSize > LARGEST_DOCUMENT
        return !tooLarge
      },
    })
  } catch {
    throw new FormatError('The archive is damaged: it cannot be unpacked.')
  }
  if (tooLarge) throw new FormatError('The archive holds a puppet that is too large to open.')
  const document = files['puppet.json']
  if (!document) throw new FormatError('This zip file is no puppet archive: it has no puppet.json.')
  return strFromU8(document)
}
