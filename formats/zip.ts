/** Zip files whose entries are unpacked one by one, when they are asked for. */
import { unzipSync, type UnzipFileInfo } from 'fflate'
import { FormatError } from './warnings'

export interface Zip {
  readonly names: ReadonlySet<string>
  /** Unpacks an entry; null where there is none of that name. Throws FormatError where it is damaged or too large. */
  readonly read: (name: string, limit: number) => Uint8Array | null
}

/** Most entries that a zip file may list. */
const MOST_ENTRIES = 20000

export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 0x03 && bytes[3] === 0x04

/** Reads the directory of a zip file. Throws FormatError. */
export function openZip(bytes: Uint8Array): Zip {
  const sizes = new Map<string, number>()
  unpack(bytes, (entry) => {
    sizes.set(entry.name, entry.originalSize)
    if (sizes.size > MOST_ENTRIES) throw new FormatError(`The file is a zip of more than ${MOST_ENTRIES} entries.`)
    return false
  })
  const read = (name: string, limit: number): Uint8Array | null => {
    const size = sizes.get(name)
    if (size === undefined) return null
    if (size > limit)
      throw new FormatError(`"${name.slice(0, 80)}" in the file would unpack to ${Math.ceil(size / 2 ** 20)} MB, more than is read.`)
    // An entry is given just the room that the directory says, so that it cannot grow beyond.
    const found = unpack(bytes, (entry) => entry.name === name)[name]
    if (!found || found.length !== size) throw new FormatError(`The file is damaged: "${name.slice(0, 80)}" in it cannot be unpacked.`)
    return found
  }
  return { names: new Set(sizes.keys()), read }
}

function unpack(bytes: Uint8Array, filter: (entry: UnzipFileInfo) => boolean): Record<string, Uint8Array> {
  try {
    return unzipSync(bytes, { filter })
  } catch (error) {
    if (error instanceof FormatError) throw error
    throw new FormatError('The file is damaged: it cannot be unpacked.')
  }
}
