/** Reading files inside of a worker: what is decoded by Skia loads it first. */
import { guessNaming, namedParts } from '@marionette/core/roles/naming'
import type { Progress } from '@marionette/formats/layers/import'
import { isPicture, type DecodePicture } from '@marionette/formats/layers/single'
import { isPng } from '@marionette/formats/pixels'
import type { NamedFile } from '@marionette/formats/fileNames'
import { readPuppetFile, type ReadPuppet } from '@marionette/formats/read'
import { readTogether } from '@marionette/formats/together'
import { pictureDecoder } from '@marionette/render/decode'
import { loadSkia } from '../skia/loadSkia'
import { nth } from '@marionette/core/kernel/sure'

/** Files that become one puppet; a single one is read as it is. */
export async function readFiles(given: readonly File[], name: string, progress: Progress): Promise<ReadPuppet> {
  // Files come by reference; their bytes are in this worker alone.
  const files: NamedFile[] = await Promise.all(given.map(async (f) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })))
  const decode: DecodePicture | undefined = files.some(({ bytes }) => isPicture(bytes) && !isPng(bytes))
    ? pictureDecoder(await loadSkia())
    : undefined
  const options = { progress, ...(decode && { decode }) }
  const read = files.length === 1 ? readPuppetFile(nth(files, 0).bytes, nth(files, 0).name, options) : readTogether(files, name, options)
  const naming = read.puppet.skeleton.length === 0 ? guessNaming(namedParts(read.puppet)) : null
  return naming === null ? read : { ...read, puppet: { ...read.puppet, naming } }
}
