/**
 * Writes the whole library into one file.
 *
 * Everything is read in one transaction, so that the backup is the library at one moment whatever is saved meanwhile, and written
 * piece by piece beside the wanted place: only a file that is whole and on the disk takes the place of an older one.
 */
import { createWriteStream, openSync, closeSync, fsyncSync, renameSync, rmSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { PassThrough, Readable } from 'node:stream'
import { finished } from 'node:stream/promises'
import { promisify } from 'node:util'
import { inflateRaw } from 'node:zlib'
import { ZipFile } from 'yazl'
import { PlainDatabase } from '../db/plain'
import { assetFile, documentFile, templateFile, versionFile, type Contents } from './contents'
import { sure } from '@marionette/core/kernel/sure'

const inflate = promisify(inflateRaw)

export interface BackupRequest {
  /** Database file of the library. */
  readonly database: string
  /** Where the backup is wanted. */
  readonly file: string
  /** Whether what cannot be read any more is left out and named, as of a damaged file. */
  readonly spare?: boolean
}

export interface Written {
  readonly bytes: number
  readonly puppets: number
  /** Names of what could not be read. */
  readonly lost: readonly string[]
}

/** A piece of the backup: read when its turn comes. */
interface Piece {
  readonly name: string
  readonly compress: boolean
  readonly read: () => Promise<Buffer>
}

/** Writes a backup. Throws what the disk and the database throw; an older file then stays as it was. */
export async function writeBackup({ database, file, spare = false }: BackupRequest): Promise<Written> {
  const db = await PlainDatabase.open(database, true)
  const part = join(dirname(file), `.${Date.now().toString(36)}-${process.pid}.part`)
  try {
    // From the first read on everything is read as it is now.
    await db.exec('BEGIN')
    const lost: string[] = []
    const reader = new LibraryReader(db, spare ? (name) => lost.push(name) : null)
    const { contents, pieces } = await reader.list()
    const bytes = await zipInto(part, pieces, contents)
    renameSync(part, file)
    syncFolder(dirname(file))
    return { bytes, puppets: contents.puppets.length, lost }
  } finally {
    rmSync(part, { force: true })
    await db.close().catch(() => undefined)
  }
}

async function zipInto(file: string, pieces: readonly Piece[], contents: Contents): Promise<number> {
  const zip = new ZipFile()
  const out = createWriteStream(file)
  let failure: unknown
  const fail = (error: unknown): void => {
    failure ??= error
    out.destroy(error as Error)
  }
  zip.on('error', fail)
  zip.outputStream.on('error', fail).pipe(out)
  for (const { name, compress, read } of pieces)
    zip.addReadStreamLazy(name, { compress }, (take) => {
      // An error is told by a stream as well: only the caller can end the zip.
      read().then(
        (bytes) => take(null, Readable.from([bytes])),
        (error: unknown) => {
          fail(error)
          take(null, new PassThrough().end())
        },
      )
    })
  zip.addBuffer(Buffer.from(JSON.stringify(contents, null, 2)), 'library.json')
  zip.end()
  await finished(out).catch((error: unknown) => {
    throw failure ?? error
  })
  if (failure) throw failure
  const handle = openSync(file, 'r+')
  fsyncSync(handle)
  closeSync(handle)
  return out.bytesWritten
}

/** A name in a folder is on the disk once the folder is. */
function syncFolder(folder: string): void {
  const handle = openSync(folder, 'r')
  try {
    fsyncSync(handle)
  } finally {
    closeSync(handle)
  }
}

interface PuppetRow {
  name: string
  deletedAt: string | null
  updatedAt: string
  revision: number
}

/** A date as the database has it, in the form that is the same everywhere. */
const iso = (date: string): string => new Date(date.includes('T') ? date : date.replace(' ', 'T').replace(' +00:00', 'Z')).toISOString()

class LibraryReader {
  private readonly pieces: Piece[] = []

  constructor(
    private readonly db: PlainDatabase,
    private readonly spare: ((name: string) => void) | null,
  ) {}

  async list(): Promise<{ contents: Contents; pieces: readonly Piece[] }> {
    const contents: Contents = { format: 'eager-marionette/library', version: 2, puppets: [], templates: [] }
    // Ids stand in an index of their own, apart from the rows, of which some may be damaged.
    const ids = await this.db.all<{ id: string }>('SELECT id FROM puppets INDEXED BY sqlite_autoindex_puppets_1 ORDER BY id')
    for (const { id } of ids) await this.tryTo(id, () => this.addPuppet(id, contents))
    await this.tryTo('templates', () => this.addTemplates(contents))
    await this.tryTo('pictures', () => this.addAssets())
    return { contents, pieces: this.pieces }
  }

  private async tryTo(name: string, work: () => Promise<void>): Promise<void> {
    try {
      await work()
    } catch (error) {
      if (!this.spare) throw error
      this.spare(name)
    }
  }

  private async addPuppet(id: string, contents: Contents): Promise<void> {
    const row = await this.db.get<PuppetRow>('SELECT name, deletedAt, updatedAt, revision FROM puppets WHERE id = ?', id)
    if (!row) return
    const where = row.deletedAt === null ? 'puppets' : 'trash'
    const read = (): Promise<Buffer> => this.documentOf(id)
    // Of a damaged file it is found out now what can be read, while it can still be left out.
    if (this.spare) await read()
    this.pieces.push({ name: documentFile(where, id), compress: true, read })
    const versions: Contents['puppets'][number]['versions'] = []
    await this.tryTo(`versions of ${row.name}`, async () => {
      const rows = await this.db.all<{ revision: number; name: string | null; pinned: string | null; createdAt: string }>(
        `SELECT revision, name, ${(await this.hasPins()) ? 'pinned' : 'NULL AS pinned'}, createdAt FROM revisions WHERE puppetId = ? ORDER BY revision`,
        id,
      )
      for (const { revision, name, pinned, createdAt } of rows)
        await this.tryTo(`version ${revision} of ${row.name}`, async () => {
          if (this.spare) await this.versionOf(id, revision)
          this.pieces.push({ name: versionFile(id, revision), compress: true, read: () => this.versionOf(id, revision) })
          versions.push({ revision, name, pinned, at: iso(createdAt) })
        })
    })
    const deletedAt = row.deletedAt === null ? null : iso(row.deletedAt)
    contents.puppets.push({ id, where, deletedAt, updatedAt: iso(row.updatedAt), revision: row.revision, versions })
  }

  /** A damaged file may be of a version that pinned nothing. */
  private async hasPins(): Promise<boolean> {
    return (await this.db.all<{ name: string }>('PRAGMA table_info(revisions)')).some((column) => column.name === 'pinned')
  }

  private async documentOf(id: string): Promise<Buffer> {
    const row = await this.db.get<{ document: string }>('SELECT document FROM puppets WHERE id = ?', id)
    return Buffer.from(sure(row).document)
  }

  private async versionOf(id: string, revision: number): Promise<Buffer> {
    const row = await this.db.get<{ document: Buffer }>('SELECT document FROM revisions WHERE puppetId = ? AND revision = ?', id, revision)
    return inflate(sure(row).document)
  }

  private async addTemplates(contents: Contents): Promise<void> {
    const rows = await this.db.all<{ id: string; name: string }>('SELECT id, name FROM templates ORDER BY createdAt')
    rows.forEach(({ id, name }, index) => {
      contents.templates.push({ id, name })
      const read = async (): Promise<Buffer> => {
        const row = await this.db.get<{ document: string }>('SELECT document FROM templates WHERE id = ?', id)
        return Buffer.from(sure(row).document)
      }
      this.pieces.push({ name: templateFile(index), compress: true, read })
    })
  }

  private async addAssets(): Promise<void> {
    const rows = await this.db.all<{ hash: string }>('SELECT hash FROM assets ORDER BY hash')
    for (const { hash } of rows) {
      const read = async (): Promise<Buffer> =>
        sure(await this.db.get<{ bytes: Buffer }>('SELECT bytes FROM assets WHERE hash = ?', hash)).bytes
      await this.tryTo(`picture ${hash.slice(0, 8)}`, async () => {
        if (this.spare) await read()
        this.pieces.push({ name: assetFile(hash), compress: false, read })
      })
    }
  }
}
