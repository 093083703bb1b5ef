/** Any file that can become a puppet. */
import { freshId, type IdSource } from '@marionette/core/document/ids'
import type { Puppet } from '@marionette/core/document/schema'
import { EditError } from '@marionette/core/edit/command'
import { readArchiveFrom } from './archive/archive'
import { baseOf, stemOf, type NamedFile } from './fileNames'
import { importLayers, type Progress } from './layers/import'
import { cleanName, type LayeredFile } from './layers/layers'
import { isPicture, pictureLayer, readPicture, type DecodePicture } from './layers/single'
import { isOpenRaster, readOpenRaster } from './openraster/read'
import { isPsd, readLayeredPsd } from './psd/read'
import { decodeText, UNREADABLE } from './text'
import { importSvg, type Nesting } from './svg/import'
import { FormatError, type Warning } from './warnings'
import { isZip, openZip } from './zip'

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
  const { ids = freshId } = options
  if (bytes.length === 0) throw new FormatError('The file is empty.')
  if (isZip(bytes)) {
    const zip = openZip(bytes)
    if (!isOpenRaster(zip)) return { ...readArchiveFrom(zip), warnings: [], nesting: null }
    return fromLayers(readOpenRaster(zip), fileName, options)
  }
  if (isPsd(bytes)) return fromLayers(readLayeredPsd(bytes), fileName, options)
  if (isPicture(bytes)) return readPictures([{ name: fileName, bytes }], stemOf(fileName), options)
  const text = decodeText(bytes)
  if (
    !text
      .replace(/^\uFEFF/, '')
      .trimStart()
      .startsWith('<')
  )
    throw new FormatError(UNREADABLE)
  return importSvg(text, stemOf(fileName), ids, baseOf(fileName).slice(0, 300))
}

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
