/**
 * Brings a backup into the library; overwrites nothing.
 *
 * First everything is read, checked and laid out in a database of its own beside the library's. Only then the library takes all of it
 * over in one transaction: killed at any moment, it holds everything or nothing of the backup.
 */
import { z } from 'zod'
import { createHash } from 'node:crypto'
import { rmSync } from 'node:fs'
import { promisify } from 'node:util'
import { deflateRaw } from 'node:zlib'
import { freshId } from '@marionette/core/kernel/ids'
import { PuppetError } from '@marionette/core/puppet/invariants'
import { NewerVersionError, readPuppet } from '@marionette/core/puppet/migrate'
import { KeptMotion } from '@marionette/core/motions/kept'
import { Template } from '@marionette/core/templates/template'
import { sniffAsset } from '@marionette/formats/assets'
import { hashesIn } from '../assetUse'
import { PlainDatabase } from '../db/plain'
import { checkedPuppet, type Checked } from '../jobs/check'
import { FAST } from '../revisions'
import { assetFile, Contents, documentFile, templateFile, versionFile } from './contents'
import { damaged, ZipReader } from './zip'
import { sure } from '@marionette/core/kernel/sure'

const deflate = promisify<Buffer, { level: number }, Buffer>(deflateRaw)

export interface RestoreRequest {
  /** Database file of the library. */
  readonly database: string
  readonly backup: string
  /** Where it is laid out; whatever is there goes. */
  readonly staging: string
}

export interface Restored {
  readonly added: number
  /** Those that differ from what is there under the same id. */
  readonly copied: number
  readonly unchanged: number
}

const TABLES = `
  CREATE TABLE puppets (id TEXT PRIMARY KEY, name, note, parts, bones, revision, document, original, createdAt, updatedAt, deletedAt);
  CREATE TABLE revisions (puppetId, revision, name, pinned, document, createdAt, PRIMARY KEY (puppetId, revision));
  CREATE TABLE uses (puppetId, revision, hash);
  CREATE TABLE assets (hash TEXT PRIMARY KEY, type, bytes);
  CREATE TABLE templates (id TEXT PRIMARY KEY, name, document);`

/** A moment as Sequelize writes it into the database. */
const stored = (moment: string): string => moment.replace('T', ' ').replace('Z', ' +00:00')

/** Reads and checks a backup into a database of its own. Throws ApiError 422 with one sentence. */
export async function prepareRestore({ backup, staging }: RestoreRequest): Promise<void> {
  rmSync(staging, { force: true })
  const zip = await ZipReader.open(backup)
  const db = await PlainDatabase.open(staging)
  try {
    // What is half laid out is thrown away anyway.
    await db.exec(`PRAGMA synchronous = OFF; PRAGMA journal_mode = OFF; ${TABLES} BEGIN`)
    await new Stager(zip, db).stage()
    await db.exec('COMMIT')
  } finally {
    await db.close()
    zip.close()
  }
}

class Stager {
  constructor(
    private readonly zip: ZipReader,
    private readonly db: PlainDatabase,
  ) {}

  async stage(): Promise<void> {
    const parsed = Contents.safeParse(await this.zip.json('library.json'))
    if (!parsed.success) throw damaged('its library.json does not fit, or was made by a newer version')
    for (const puppet of parsed.data.puppets) await this.puppet(puppet)
    for (const [index, { id }] of parsed.data.templates.entries()) await this.template(id, templateFile(index))
    for (const name of this.zip.names()) if (/^assets\/[0-9a-f]{64}$/.test(name)) await this.asset(name.slice('assets/'.length))
  }

  private async puppet(entry: Contents['puppets'][number]): Promise<void> {
    const { id, where, versions } = entry
    const name = documentFile(where, id)
    const raw = await this.zip.json(name)
    const checked = documentOf(raw, name)
    if (checked.id !== id) throw damaged(`${name} is the document of another puppet`)
    const at = stored(entry.updatedAt ?? new Date().toISOString())
    const deleted = where === 'trash' ? stored(entry.deletedAt ?? new Date().toISOString()) : null
    const last = versions.at(-1)?.revision ?? 0
    // Backups of version 1 did not say which version the document itself is.
    const revision = entry.revision ?? last + 1
    await this.db.run(
      'INSERT OR IGNORE INTO puppets VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
      ...[id, checked.name, checked.note, checked.parts, checked.bones, revision, checked.document, JSON.stringify(raw), at, at, deleted],
    )
    for (const version of versions) {
      const file = versionFile(id, version.revision)
      const text = plainDocument(await this.zip.json(file), file)
      await this.version(id, version.revision, version.name, version.pinned, text, version.at ? stored(version.at) : at)
    }
    if (!versions.some((v) => v.revision === revision)) await this.version(id, revision, null, null, checked.document, at)
  }

  private async version(id: string, revision: number, name: string | null, pinned: string | null, text: string, at: string): Promise<void> {
    const packed = await deflate(Buffer.from(text), { level: FAST })
    await this.db.run('INSERT OR IGNORE INTO revisions VALUES (?, ?, ?, ?, ?, ?)', id, revision, name, pinned, packed, at)
    for (const hash of hashesIn(text)) await this.db.run('INSERT INTO uses VALUES (?, ?, ?)', id, revision, hash)
  }

  private async template(id: string, file: string): Promise<void> {
    const parsed = z.union([Template, KeptMotion]).safeParse(await this.zip.json(file))
    if (!parsed.success || parsed.data.id !== id) throw damaged(`${file} holds no template, and no motion`)
    await this.db.run('INSERT OR IGNORE INTO templates VALUES (?, ?, ?)', id, parsed.data.name, JSON.stringify(parsed.data))
  }

  private async asset(hash: string): Promise<void> {
    const bytes = await this.zip.bytes(assetFile(hash))
    if (createHash('sha256').update(bytes).digest('hex') !== hash) throw damaged('a picture in it was changed')
    const type = sniffAsset(bytes)
    if (!type) throw damaged('a picture in it is none')
    await this.db.run('INSERT OR IGNORE INTO assets VALUES (?, ?, ?)', hash, type, bytes)
  }
}

/** A document of a backup; one that a newer version wrote goes in as it is. */
function documentOf(data: unknown, name: string): Checked {
  try {
    return checkedPuppet(readPuppet(data))
  } catch (error) {
    if (error instanceof NewerVersionError) return asItIs(data as Record<string, unknown>)
    if (error instanceof PuppetError) throw damaged(`${name} holds no sound puppet`)
    throw error
  }
}

function asItIs(raw: Record<string, unknown>): Checked {
  const count = (records: unknown): number => (typeof records === 'object' && records !== null ? Object.keys(records).length : 0)
  return {
    id: String(raw['id']),
    name: String(raw['name']).slice(0, 200),
    note: String(raw['note'] ?? '').slice(0, 500),
    parts: Math.max(0, count(raw['parts']) - 1),
    bones: count(raw['bones']),
    document: JSON.stringify(raw),
    assets: [],
  }
}

/** Earlier versions are checked when they are opened; here it is enough that they are documents. */
function plainDocument(data: unknown, name: string): string {
  if ((data as { format?: unknown } | null)?.format !== 'eager-marionette/puppet') throw damaged(`${name} holds no puppet`)
  return JSON.stringify(data)
}

/** Takes what was prepared into the library in one transaction. Throws what the database throws; nothing is changed then. */
export async function commitRestore({ database, staging }: RestoreRequest): Promise<Restored> {
  const db = await PlainDatabase.open(database)
  try {
    await db.run('ATTACH DATABASE ? AS staged', staging)
    await db.exec('BEGIN IMMEDIATE')
    try {
      const restored = await takeOver(db)
      await db.exec('COMMIT')
      return restored
    } catch (error) {
      await db.exec('ROLLBACK').catch(() => undefined)
      throw error
    }
  } finally {
    await db.close()
    rmSync(staging, { force: true })
  }
}

async function takeOver(db: PlainDatabase): Promise<Restored> {
  const now = stored(new Date().toISOString())
  await db.run(
    'INSERT OR IGNORE INTO assets (hash, type, bytes, createdAt, neededAt) SELECT hash, type, bytes, ?, ? FROM staged.assets',
    now,
    now,
  )
  await db.run('INSERT OR IGNORE INTO templates (id, name, document, createdAt) SELECT id, name, document, ? FROM staged.templates', now)
  const found = await db.all<{ id: string; name: string; same: number }>(`
    SELECT s.id, s.name, (s.document = p.document OR s.original = p.document) AS same FROM staged.puppets s JOIN puppets p ON p.id = s.id`)
  // What is there already with the same content gets its names, its versions and its place back.
  for (const { id } of found.filter((f) => f.same)) await completeThere(db, id)
  // What differs comes in beside what is there.
  const differing = found.filter((f) => !f.same)
  for (const { id } of differing) await renameStaged(db, id, freshId('puppet'))
  const { added } = sure(
    await db.get<{ added: number }>('SELECT count(*) AS added FROM staged.puppets WHERE id NOT IN (SELECT id FROM puppets)'),
  )
  await db.exec(`
    CREATE TEMP TABLE coming AS SELECT id FROM staged.puppets WHERE id NOT IN (SELECT id FROM puppets);
    INSERT INTO puppets (id, name, note, parts, bones, revision, document, createdAt, updatedAt, deletedAt)
      SELECT id, name, note, parts, bones, revision, document, createdAt, updatedAt, deletedAt FROM staged.puppets
      WHERE id IN (SELECT id FROM coming);
    INSERT INTO revisions (puppetId, revision, name, pinned, document, createdAt)
      SELECT puppetId, revision, name, pinned, document, createdAt FROM staged.revisions WHERE puppetId IN (SELECT id FROM coming);
    INSERT OR IGNORE INTO revision_assets (puppetId, revision, hash)
      SELECT DISTINCT puppetId, revision, hash FROM staged.uses WHERE puppetId IN (SELECT id FROM coming);`)
  return { added: added - differing.length, copied: differing.length, unchanged: found.length - differing.length }
}

async function renameStaged(db: PlainDatabase, id: string, other: string): Promise<void> {
  await db.run("UPDATE staged.puppets SET id = ?, document = json_set(document, '$.id', ?) WHERE id = ?", other, other, id)
  await db.run('UPDATE staged.revisions SET puppetId = ? WHERE puppetId = ?', other, id)
  await db.run('UPDATE staged.uses SET puppetId = ? WHERE puppetId = ?', other, id)
}

async function completeThere(db: PlainDatabase, id: string): Promise<void> {
  await db.run(
    `UPDATE revisions SET name = s.name FROM staged.revisions s
     WHERE revisions.puppetId = ? AND s.puppetId = revisions.puppetId AND s.revision = revisions.revision
       AND revisions.name IS NULL AND s.name IS NOT NULL AND s.document = revisions.document`,
    id,
  )
  await db.run(
    `INSERT OR IGNORE INTO revisions (puppetId, revision, name, pinned, document, createdAt)
     SELECT puppetId, revision, name, pinned, document, createdAt FROM staged.revisions
     WHERE puppetId = ? AND revision < (SELECT revision FROM puppets WHERE id = ?)`,
    id,
    id,
  )
  await db.run(
    `INSERT OR IGNORE INTO revision_assets (puppetId, revision, hash)
     SELECT u.puppetId, u.revision, u.hash FROM staged.uses u JOIN revisions r ON r.puppetId = u.puppetId AND r.revision = u.revision
     WHERE u.puppetId = ?`,
    id,
  )
  await db.run('UPDATE puppets SET deletedAt = NULL WHERE id = ? AND (SELECT deletedAt FROM staged.puppets WHERE id = ?) IS NULL', id, id)
}
