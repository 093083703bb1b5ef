/** Any file that can become a puppet. */
import { freshId, type IdSource } from '@marionette/core/document/ids'
import type { Puppet } from '@marionette/core/document/schema'
import { readArchive } from './archive/archive'
import { decodeText } from './text'
import { importSvg, type Nesting } from './svg/import'
import { FormatError, type Warning } from './warnings'

export interface ReadPuppet {
  readonly puppet: Puppet
  readonly warnings: readonly Warning[]
  /** Groups of a drawing that group nothing, for folding; null for what is a puppet already. */
  readonly nesting: Nesting | null
  /** Bytes of raster pictures by their hash. */
  readonly assets: ReadonlyMap<string, Uint8Array>
}

const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 0x03 && bytes[3] === 0x04

/** File name without folders and extension. */
export const stemOf = (fileName: string): string => fileName.replace(/^.*[\\/]/, '').replace(/\.[^.]+$/, '') || 'Untitled'

/** Reads a file by what is in it, not by its name. Throws FormatError with one sentence. */
export function readPuppetFile(bytes: Uint8Array, fileName: string, ids: IdSource = freshId): ReadPuppet {
  if (bytes.length === 0) throw new FormatError('The file is empty.')
  if (isZip(bytes)) return { ...readArchive(bytes), warnings: [], nesting: null }
  const text = decodeText(bytes)
  if (
    !text
      .replace(/^\uFEFF/, '')
      .trimStart()
      .startsWith('<')
  )
    throw new FormatError('This is neither an SVG drawing nor a puppet archive.')
  return importSvg(text, stemOf(fileName), ids)
}
