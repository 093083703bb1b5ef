/** Reading a zip piece by piece, with limits that are looked at before and while it is unpacked. */
import { type Entry, type ZipFile, open } from 'yauzl'
import { ApiError } from '../errors'

/** A single file in a backup, unpacked. */
const LARGEST_FILE = 512 * 1024 * 1024
/** Unpacked this much of a backup is always fine; beyond it, it may be so many times larger than it is packed. */
const ALWAYS_FINE = 64 * 1024 * 1024
const MOST_TIMES = 60

export const damaged = (what: string): ApiError => new ApiError(422, 'backup.invalid', `The backup is damaged: ${what}.`)
const NO_ZIP = 'This file is no backup of a library, or it is damaged: it cannot be unpacked.'

export class ZipReader {
  private constructor(
    private readonly zip: ZipFile,
    private readonly entries: ReadonlyMap<string, Entry>,
  ) {}

  /** Reads the list of a zip. Throws ApiError 422 for what is no zip, or unpacks to far more than it can hold. */
  static async open(file: string): Promise<ZipReader> {
    const zip = await new Promise<ZipFile>((resolve, reject) => {
      open(file, { lazyEntries: true, autoClose: false, strictFileNames: true }, (error, opened) =>
        error ? reject(new ApiError(422, 'backup.invalid', NO_ZIP)) : resolve(opened),
      )
    })
    try {
      return new ZipReader(zip, await listOf(zip))
    } catch (error) {
      zip.close()
      throw error
    }
  }

  names(): IterableIterator<string> {
    return this.entries.keys() as IterableIterator<string>
  }

  /** Bytes of a file. Throws ApiError 422 where it is missing or cannot be unpacked. */
  async bytes(name: string): Promise<Buffer> {
    const entry = this.entries.get(name)
    if (!entry) throw damaged(`${name} is missing in it`)
    const chunks: Buffer[] = []
    try {
      const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
        this.zip.openReadStream(entry, (error, opened) => (error ? reject(error) : resolve(opened))),
      )
      for await (const chunk of stream) chunks.push(chunk as Buffer)
    } catch {
      throw damaged(`${name} cannot be unpacked`)
    }
    return Buffer.concat(chunks)
  }

  async json(name: string): Promise<unknown> {
    try {
      return JSON.parse((await this.bytes(name)).toString('utf8'))
    } catch (error) {
      if (error instanceof ApiError) throw error
      throw damaged(`its ${name} is not readable`)
    }
  }

  close(): void {
    this.zip.close()
  }
}

/** All entries by name. */
function listOf(zip: ZipFile): Promise<Map<string, Entry>> {
  const entries = new Map<string, Entry>()
  let packed = 0
  let unpacked = 0
  return new Promise((resolve, reject) => {
    const refuse = (message: string): void => reject(new ApiError(422, 'backup.invalid', message))
    zip.on('error', () => refuse(NO_ZIP))
    zip.on('end', () => resolve(entries))
    zip.on('entry', (entry: Entry) => {
      packed += entry.compressedSize
      unpacked += entry.uncompressedSize
      if (entry.uncompressedSize > LARGEST_FILE || (unpacked > ALWAYS_FINE && unpacked > MOST_TIMES * packed))
        return refuse('The backup is too large to be unpacked: it holds far more than a library does.')
      entries.set(entry.fileName, entry)
      zip.readEntry()
    })
    zip.readEntry()
  })
}
