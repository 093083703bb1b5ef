/** Any file that can become a puppet. */
import { freshId, type IdSource } from '@marionette/core/document/ids'
import type { Puppet } from '@marionette/core/document/schema'
import { readArchive } from './archive/archive'
import { importSvg } from './svg/import'
import { FormatError, type Warning } from './warnings'

export interface ReadPuppet {
  readonly puppet: Puppet
  readonly warnings: readonly Warning[]
}

const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 0x03 && bytes[3] === 0x04

/** File name without folders and extension. */
export const stemOf = (fileName: string): string => fileName.replace(/^.*[\\/]/, '').replace(/\.[^.]+$/, '') || 'Untitled'

/** Reads a file by what is in it, not by its name. Throws FormatError with one sentence. */
export function readPuppetFile(bytes: Uint8Array, fileName: string, ids: IdSource = freshId): ReadPuppet {
  if (bytes.length === 0) throw new FormatError('The file is empty.')
  if (isZip(bytes)) return { puppet: readArchive(bytes), warnings: [] }
  let text: string
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    throw new FormatError('This is neither an SVG drawing nor a puppet archive.')
  }
  if (!/<(svg:)?svg[\s>]/.test(text) && !text.trimStart().startsWith('<'))
    throw new FormatError('This is neither an SVG drawing nor a puppet archive.')
  return importSvg(text, stemOf(fileName), ids)
}
