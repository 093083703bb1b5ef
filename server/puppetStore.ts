/** The library: puppets by id, saved only on top of the revision that the writer knows. */
import { Op, type Transaction } from 'sequelize'
import { freshId } from '@marionette/core/document/ids'
import { PuppetError } from '@marionette/core/document/invariants'
import { canonicalJson } from '@marionette/core/document/json'
import { readPuppet } from '@marionette/core/document/migrate'
import type { Puppet } from '@marionette/core/document/schema'
import { EditError, run } from '@marionette/core/edit/command'
import { renamePuppet } from '@marionette/core/edit/puppet'
import { assetsOf } from '@marionette/core/document/tree'
import { AssetStore } from './assetStore'
import { TemplateStore } from './templateStore'
import type { Database } from './db/database'
import type { PuppetRow } from './db/models'
import { ApiError, missing } from './errors'
import { Revisions } from './revisions'

export interface PuppetSummary {
  readonly id: string
  readonly name: string
  readonly note: string
  readonly parts: number
  readonly bones: number
  readonly revision: number
  readonly updatedAt: string
  /** When it was put into the trash, or null. */
  readonly deletedAt: string | null
}

export interface StoredPuppet {
  readonly puppet: Puppet
  readonly revision: number
}

export class PuppetStore {
  readonly revisions: Revisions
  readonly assets: AssetStore
  readonly templates: TemplateStore

  constructor(private readonly db: Database) {
    this.revisions = new Revisions(db)
    this.assets = new AssetStore(db)
    this.templates = new TemplateStore(db)
  }

  /** Puppets of the library, or of the trash, newest first. */
  async list(where: 'library' | 'trash' = 'library'): Promise<PuppetSummary[]> {
    const attributes = ['id', 'name', 'note', 'parts', 'bones', 'revision', 'updatedAt', 'deletedAt'] as const
    const rows = await this.db.puppets.findAll({
      where: { deletedAt: where === 'trash' ? { [Op.ne]: null } : null },
      attributes: [...attributes],
      order: [[where === 'trash' ? 'deletedAt' : 'updatedAt', 'DESC']],
    })
    return rows.map(summaryOf)
  }

  /** As `list`, from a file of which not all can be read: row by row. `lost` takes the ids of rows that are gone. */
  async salvage(where: 'library' | 'trash', lost: (id: string) => void): Promise<{ id: string; name: string }[]> {
    // The ids stand in an index of their own, apart from the rows.
    const ids = (await this.db.puppets.findAll({ attributes: ['id'] })).map((r) => r.id)
    const out: { id: string; name: string }[] = []
    for (const id of ids) {
      try {
        const row = await this.db.puppets.findByPk(id, { attributes: ['name', 'deletedAt'] })
        if (row && (row.deletedAt !== null) === (where === 'trash')) out.push({ id, name: row.name })
      } catch {
        if (where === 'library') lost(id)
      }
    }
    return out
  }

  /** Whether the library ever held a puppet, the trash included. */
  async isNew(): Promise<boolean> {
    return (await this.db.puppets.count()) === 0
  }

  /** A puppet of the library; with `trashed` also one that lies in the trash. */
  async get(id: string, trashed = false): Promise<StoredPuppet> {
    const row = trashed ? await this.db.puppets.findByPk(id) : await this.row(id)
    if (!row) throw missing(id)
    return { puppet: readPuppet(JSON.parse(row.document)), revision: row.revision }
  }

  /** Adds a puppet; one whose id is taken gets a new id. Its pictures must be in the library already. */
  async add(data: unknown): Promise<PuppetSummary> {
    const puppet = check(data)
    await this.checkAssets(puppet)
    return this.db.write(async (transaction) => {
      const taken = await this.db.puppets.findByPk(puppet.id, { attributes: ['id'], transaction })
      return this.insert(taken ? { ...puppet, id: freshId('puppet') } : puppet, transaction)
    })
  }

  /** Replaces a puppet if nobody saved since `revision`. Throws ApiError 412 with the present revision otherwise. */
  async save(id: string, data: unknown, revision: number): Promise<PuppetSummary> {
    const puppet = check(data)
    if (puppet.id !== id) throw new ApiError(422, 'puppet.id', `The document belongs to the puppet "${puppet.id}", not to "${id}".`)
    await this.checkAssets(puppet)
    return this.db.write(async (transaction) => {
      const row = await this.row(id, transaction)
      if (row.revision !== revision) {
        const message = `"${row.name}" was saved elsewhere in the meantime (revision ${row.revision}, yours is based on ${revision}).`
        throw new ApiError(412, 'puppet.conflict', message, { revision: row.revision })
      }
      return this.replace(row, puppet, transaction)
    })
  }

  rename(id: string, name: string): Promise<PuppetSummary> {
    return this.db.write(async (transaction) => {
      const row = await this.row(id, transaction)
      return this.replace(row, renamed(readPuppet(JSON.parse(row.document)), name), transaction)
    })
  }

  duplicate(id: string): Promise<PuppetSummary> {
    return this.db.write(async (transaction) => {
      const row = await this.row(id, transaction)
      const puppet = readPuppet(JSON.parse(row.document))
      return this.insert(renamed({ ...puppet, id: freshId('puppet') }, `${puppet.name} copy`.slice(0, 200)), transaction)
    })
  }

  /** Moves a puppet to the trash. */
  remove(id: string): Promise<void> {
    return this.db.write(async (transaction) => {
      await (await this.row(id, transaction)).update({ deletedAt: new Date() }, { silent: true, transaction })
    })
  }

  /** Takes a puppet back out of the trash. */
  restore(id: string): Promise<PuppetSummary> {
    return this.db.write(async (transaction) => {
      const row = await this.db.puppets.findByPk(id, { transaction })
      if (!row) throw missing(id)
      await row.update({ deletedAt: null }, { silent: true, transaction })
      return summaryOf(row)
    })
  }

  /** Takes a puppet that lies in the trash away for good, with its earlier versions. */
  purge(id: string): Promise<void> {
    return this.db.write(async (transaction) => {
      const row = await this.db.puppets.findByPk(id, { transaction })
      if (!row) throw missing(id)
      if (row.deletedAt === null) throw new ApiError(409, 'puppet.kept', `"${row.name}" does not lie in the trash.`)
      await this.db.revisions.destroy({ where: { puppetId: id }, transaction })
      await row.destroy({ transaction })
    })
  }

  /** A save whose pictures never arrived would show holes for ever. */
  private async checkAssets(puppet: Puppet): Promise<void> {
    const missing = await this.assets.missing(assetsOf(puppet))
    if (missing.length > 0)
      throw new ApiError(422, 'asset.missing', `A picture of "${puppet.name}" is not in the library yet.`, { missing })
  }

  private async replace(row: PuppetRow, puppet: Puppet, transaction: Transaction): Promise<PuppetSummary> {
    const columns = columnsOf(puppet)
    await row.update({ ...columns, revision: row.revision + 1 }, { transaction })
    await this.revisions.keep(row.id, row.revision, columns.document, transaction)
    return summaryOf(row)
  }

  private async row(id: string, transaction: Transaction | null = null): Promise<PuppetRow> {
    const row = await this.db.puppets.findOne({ where: { id, deletedAt: null }, transaction })
    if (!row) throw missing(id)
    return row
  }

  private async insert(puppet: Puppet, transaction: Transaction): Promise<PuppetSummary> {
    const columns = columnsOf(puppet)
    const row = await this.db.puppets.create({ id: puppet.id, ...columns, revision: 1, deletedAt: null }, { transaction })
    await this.revisions.keep(puppet.id, 1, columns.document, transaction)
    return summaryOf(row)
  }
}

const columnsOf = (puppet: Puppet) => ({
  name: puppet.name,
  note: puppet.note,
  // The topmost group is the puppet itself and is not counted.
  parts: Object.keys(puppet.parts).length - 1,
  bones: Object.keys(puppet.bones).length,
  document: canonicalJson(puppet),
})

const summaryOf = (row: PuppetRow): PuppetSummary => ({
  id: row.id,
  name: row.name,
  note: row.note,
  parts: row.parts,
  bones: row.bones,
  revision: row.revision,
  updatedAt: row.updatedAt.toISOString(),
  deletedAt: row.deletedAt?.toISOString() ?? null,
})

function check(data: unknown): Puppet {
  try {
    return readPuppet(data)
  } catch (error) {
    if (error instanceof PuppetError) throw new ApiError(422, 'puppet.invalid', `The puppet is not sound: ${error.message}.`)
    throw error
  }
}

function renamed(puppet: Puppet, name: string): Puppet {
  try {
    return run(puppet, renamePuppet, { name })
  } catch (error) {
    if (error instanceof EditError) throw new ApiError(422, 'puppet.name', error.message)
    throw error
  }
}
