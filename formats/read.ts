/** Any file that can become a puppet. */
import { freshId, type IdSource } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { readArchiveFrom } from './archive/archive'
import { baseOf, stemOf, type NamedFile } from './fileNames'
import { importLayers, type Progress } from './layers/import'
import { cleanName, type LayeredFile } from './layers/layers'
import { isPicture, pictureLayer, readPicture, type DecodePicture } from './layers/single'
import { isOpenRaster, readOpenRaster } from './openraster/read'
import { isPsd, readLayeredPsd } from './psd/read'
import { READ_FORMATS } from './endings'
import { decodeText, UNREADABLE } from './text'
import { importSvg, type Nesting } from './svg/import'
import { FormatError, type Warning } from './warnings'
import { isZip, openZip, type Zip } from './zip'
import { EditError } from '@marionette/core/kernel/errors'

export interface ReadPuppet {
  readonly puppet: Puppet
  readonly warnings: readonly Warning[]
  /** Groups of a drawing that group nothing, for folding; null for what is a puppet already. */
  readonly nesting: Nesting | null
  /** Bytes of raster pictures by their hash. */
  readonly assets: ReadonlyMap<string, Uint8Array>
}

export interface ReadOptions {
  readonly ids?: IdSource
  readonly progress?: Progress
  /** Decodes pictures other than PNG. */
  readonly decode?: DecodePicture
}

/** Reads a file by what is in it, not by its name. Throws FormatError with one sentence. */
export function readPuppetFile(bytes: Uint8Array, fileName: string, options: ReadOptions = {}): ReadPuppet {
  try {
    return readAny(bytes, fileName, options)
  } catch (error) {
    // What a file holds may be well-formed and yet no puppet that holds together.
    if (error instanceof EditError) throw new FormatError(`The file cannot be made a puppet. ${error.message}`)
    throw error
  }
}

function readAny(bytes: Uint8Array, fileName: string, options: ReadOptions): ReadPuppet {
  if (bytes.length === 0) throw new FormatError('The file is empty.')
  const file: LookedAt = { bytes, name: fileName, zip: isZip(bytes) ? openZip(bytes) : null }
  return READABLE.find((format) => format.recognises(file))!.read(file, options)
}

/** A file that is being recognised. */
export interface LookedAt {
  readonly bytes: Uint8Array
  readonly name: string
  /** What is in it where it is a zip. */
  readonly zip: Zip | null
}

/** A format that can be read. */
export interface ReadableFormat {
  readonly id: string
  readonly label: string
  /** Endings of its files, with the point; the first is the usual one. */
  readonly endings: readonly string[]
  /** Whether a file is one of these, by what is in it. */
  recognises(file: LookedAt): boolean
  read(file: LookedAt, options: ReadOptions): ReadPuppet
}

function readSvg({ bytes, name }: LookedAt, { ids = freshId }: ReadOptions): ReadPuppet {
  const text = decodeText(bytes)
  if (
    !text
      .replace(/^\uFEFF/, '')
      .trimStart()
      .startsWith('<')
  )
    throw new FormatError(UNREADABLE)
  return importSvg(text, stemOf(name), ids, baseOf(name).slice(0, 300))
}

/** All formats that can be read, in the order in which they are tried; the last takes what no other recognises. */
export const READABLE: readonly ReadableFormat[] = [
  {
    id: 'openraster',
    ...READ_FORMATS.openraster,
    recognises: ({ zip }) => zip !== null && isOpenRaster(zip),
    read: ({ zip, name }, options) => fromLayers(readOpenRaster(zip!), name, options),
  },
  {
    id: 'archive',
    ...READ_FORMATS.archive,
    recognises: ({ zip }) => zip !== null,
    read: ({ zip }) => ({ ...readArchiveFrom(zip!), warnings: [], nesting: null }),
  },
  {
    id: 'psd',
    ...READ_FORMATS.psd,
    recognises: ({ bytes }) => isPsd(bytes),
    read: ({ bytes, name }, options) => fromLayers(readLayeredPsd(bytes), name, options),
  },
  {
    id: 'picture',
    ...READ_FORMATS.picture,
    recognises: ({ bytes }) => isPicture(bytes),
    read: ({ bytes, name }, options) => readPictures([{ name, bytes }], stemOf(name), options),
  },
  { id: 'svg', ...READ_FORMATS.svg, recognises: () => true, read: readSvg },
]

const fromLayers = (layered: LayeredFile, fileName: string, { ids = freshId, progress }: ReadOptions): ReadPuppet => ({
  ...importLayers(layered, stemOf(fileName), baseOf(fileName).slice(0, 300), ids, progress),
  nesting: null,
})

/**
 * Pictures as the layers of one puppet, in the order of their names: the first lies at the bottom. The canvas is as
 * large as the largest of them; their corners lie on its corner.
 */
export function readPictures(files: readonly NamedFile[], name: string, options: ReadOptions = {}): ReadPuppet {
  const sorted = [...files].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
  const layers = sorted.map(({ name: file, bytes }) => {
    const pixels = readPicture(bytes, options.decode)
    return { pixels, layer: pictureLayer(cleanName(stemOf(file), 'Picture'), pixels, bytes) }
  })
  const size = (side: 'width' | 'height'): number => layers.reduce((most, { pixels }) => Math.max(most, pixels[side]), 1)
  const layered = { width: size('width'), height: size('height'), layers: layers.map((l) => l.layer), guides: [], warnings: [] }
  return fromLayers(layered, files.length === 1 ? files[0]!.name : name, options)
}
