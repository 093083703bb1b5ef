/** Reading and writing what the commands take and give. Paths are meant from where the person called. */
import { mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, resolve } from 'node:path'
import { resolveChannel } from '@marionette/core/puppet/channels'
import { sequentialIds, type IdSource } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { stemOf } from '@marionette/formats/fileNames'
import { readPuppetFile, type ReadPuppet } from '@marionette/formats/read'
import { isPng } from '@marionette/formats/pixels'
import { isPicture } from '@marionette/formats/layers/single'
import { pictureDecoder } from '@marionette/render/decode'
import { loadCanvasKit } from '@marionette/render/node'
import { foldImport } from '@marionette/formats/svg/import'
import { Failure } from './failure'

const at = (path: string): string => resolve(process.env['INIT_CWD'] ?? process.cwd(), path)

export function readBytes(path: string): Uint8Array {
  try {
    return readFileSync(at(path))
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code
    throw new Failure(`${path}: ${code === 'ENOENT' ? 'there is no such file' : code === 'EISDIR' ? 'this is a folder' : 'cannot be read'}`)
  }
}

/** Ids for what is read from a file: the same file gives the same ids each time. */
const idsFor = (path: string): IdSource =>
  sequentialIds(
    stemOf(path)
      .replace(/[^A-Za-z0-9_-]/g, '')
      .slice(0, 24) || 'puppet',
  )

/** Reads artwork of any kind or an archive. Groups that group nothing are folded. */
export async function readInput(path: string): Promise<ReadPuppet> {
  try {
    const bytes = readBytes(path)
    const decode = isPicture(bytes) && !isPng(bytes) ? pictureDecoder(await loadCanvasKit()) : undefined
    const read = readPuppetFile(bytes, path, { ids: idsFor(path), ...(decode && { decode }) })
    return read.nesting ? { ...read, puppet: foldImport(read.puppet, read.nesting) } : read
  } catch (error) {
    if (error instanceof Failure) throw error
    throw new Failure(`${path}: ${(error as Error).message}`)
  }
}

export function writeOutput(path: string, bytes: Uint8Array): void {
  try {
    mkdirSync(dirname(at(path)), { recursive: true })
    writeFileSync(at(path), bytes)
  } catch {
    throw new Failure(`${path}: cannot be written`)
  }
}

export function isFolder(path: string): boolean {
  try {
    return statSync(at(path)).isDirectory()
  } catch {
    return /[\\/]$/.test(path)
  }
}

/** What a JSON file says. */
export function readJson(path: string): unknown {
  const text = new TextDecoder().decode(readBytes(path))
  try {
    return JSON.parse(text)
  } catch {
    throw new Failure(`${path}: this is not JSON`)
  }
}

/** Reads a pose file: `{ "<channel>": value }`, channels by id or by unique name. */
export function readPose(path: string): (puppet: Puppet) => Record<string, number> {
  const raw = readJson(path)
  if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
    throw new Failure(`${path}: a pose is written as { "<channel>": value }`)
  const entries = Object.entries(raw)
  for (const [channel, value] of entries) {
    if (typeof value !== 'number' || !Number.isFinite(value)) throw new Failure(`${path}: the value of "${channel}" is not a number`)
  }
  return (puppet) => Object.fromEntries(entries.map(([channel, value]) => [resolveChannel(puppet, channel).address, value as number]))
}
