/** Several files as one puppet. */
import { freshId } from '@marionette/core/kernel/ids'
import { newPuppet } from '@marionette/core/puppet/new'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { partsBelow } from '@marionette/core/parts/tree'
import { run } from '@marionette/core/puppet/edit'
import { isPicture } from './layers/single'
import { stemOf, type NamedFile } from './fileNames'
import { readPictures, readPuppetFile, type ReadOptions, type ReadPuppet } from './read'
import { FormatError, type Warning } from './warnings'
import { newPart } from '@marionette/core/parts/new'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'

/**
 * Reads files into one puppet: pictures become its layers, each other file a group with all that is in it. Files lie
 * above each other in the order of their names. Throws FormatError that names the file; nothing is half read.
 */
export function readTogether(files: readonly NamedFile[], name: string, options: ReadOptions = {}): ReadPuppet {
  if (files.length === 0) throw new FormatError('There is no file to read.')
  if (files.every((f) => isPicture(f.bytes))) return readPictures(files, name, options)
  const sorted = [...files].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
  const reads = sorted.map((file, i) =>
    readOne(file, { ...options, ids: options.ids ?? freshId }, (done) => options.progress?.((i + done) / sorted.length, file.name)),
  )
  return { ...joined(reads, name, options), nesting: null }
}

function readOne(file: NamedFile, options: ReadOptions, progress: (done: number) => void): ReadPuppet & { file: string } {
  try {
    return { ...readPuppetFile(file.bytes, file.name, { ...options, progress }), file: file.name }
  } catch (error) {
    throw error instanceof FormatError ? new FormatError(`${file.name}: ${error.message}`) : error
  }
}

function joined(
  reads: readonly (ReadPuppet & { file: string })[],
  name: string,
  { ids = freshId }: ReadOptions,
): Omit<ReadPuppet, 'nesting'> {
  const size = (side: 'width' | 'height'): number => reads.reduce((most, r) => Math.max(most, r.puppet.canvas[side]), 1)
  let puppet = newPuppet(ids('puppet'), name, { width: size('width'), height: size('height') })
  const assets = new Map<string, Uint8Array>()
  const warnings: Warning[] = []
  for (const read of reads) {
    puppet = withGroup(puppet, read.puppet, ids('part'), stemOf(read.file))
    for (const [hash, bytes] of read.assets) assets.set(hash, bytes)
    warnings.push(...read.warnings.map((w) => ({ ...w, place: `${read.file}, ${w.place}` })))
  }
  return { puppet, warnings, assets }
}

/** Adds all parts of another puppet under a group of their own; their ids must not occur yet. */
function withGroup(puppet: Puppet, other: Puppet, id: string, name: string): Puppet {
  const group: Part = { ...newPart(id, name.slice(0, 200)), home: other.parts[other.root]!.home }
  const parts = partsBelow(other, other.root)
    .slice(1)
    .map((p): Part => ({ ...p, parent: p.parent === other.root ? id : p.parent, children: [], bind: null }))
  return run(puppet, addArtwork, {
    parent: puppet.root,
    parts: [group, ...parts],
    drawings: Object.values(other.drawings),
    pictures: Object.values(other.pictures),
  })
}
