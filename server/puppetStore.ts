/** The library: puppets by id, saved only on top of the revision that the writer knows. */
import { Op, type Transaction } from 'sequelize'
import { freshId } from '@marionette/core/kernel/ids'
import { canonicalJson } from '@marionette/core/kernel/json'
import type { Puppet } from '@marionette/core/puppet/schema'
import { withPuppetId } from '@marionette/core/puppet/renamed'
import { sniffAsset } from '@marionette/formats/assets'
import { AssetStore } from './assetStore'
import { TemplateStore } from './templateStore'
import type { Database } from './db/database'
import type { PuppetRow } from './db/models'
import { ApiError, missing } from './errors'
import { checkDocument, type Checked } from './jobs/check'
import { Revisions, type Pinned } from './revisions'
import { sure } from '@marionette/core/kernel/sure'

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

  /** Whether the library ever held a puppet, the trash included. */
  async isNew(): Promise<boolean> {
    return (await this.db.puppets.count()) === 0
  }

  /** The document of a puppet of the library as it is written; with `trashed` also of one that lies in the trash. */
  async text(id: string, trashed = false): Promise<{ document: string; revision: number }> {
    const row = trashed ? await this.db.puppets.findByPk(id) : await this.row(id)
    if (!row) throw missing(id)
    return { document: row.document, revision: row.revision }
  }

  /** A puppet of the library; with `trashed` also one that lies in the trash. Throws ApiError. */
  async get(id: string, trashed = false): Promise<StoredPuppet> {
    const { document, revision } = await this.text(id, trashed)
    return { puppet: JSON.parse(checkDocument(JSON.parse(document)).document) as Puppet, revision }
  }

  /** Adds a puppet; one whose id is taken gets a new id. Its pictures must be in the library already. */
  add(data: unknown): Promise<PuppetSummary> {
    return this.addChecked(checkDocument(data))
  }

  async addChecked(checked: Checked): Promise<PuppetSummary> {
    await this.checkAssets(checked)
    return this.db.write((transaction) => this.insert(checked, transaction))
  }

  /** Adds puppets with their pictures, all of them or none. */
  async addTogether(puppets: readonly { readonly puppet: Puppet; readonly assets: ReadonlyMap<string, Uint8Array> }[]): Promise<void> {
    const checked = puppets.map(({ puppet, assets }) => ({ checked: checkDocument(puppet), assets }))
    const pictures = new Map(checked.flatMap(({ assets }) => [...assets]))
    await this.db.write(async (transaction) => {
      const rows = [...pictures].map(([hash, bytes]) => ({ hash, type: sure(sniffAsset(bytes)), bytes: Buffer.from(bytes) }))
      await this.db.assets.bulkCreate(rows, { transaction, ignoreDuplicates: true })
      for (const { checked: one } of checked) await this.insert(one, transaction)
    })
  }

  /** Replaces a puppet if nobody saved since `revision`. Throws ApiError 412 with the present revision otherwise. */
  save(id: string, data: unknown, revision: number): Promise<PuppetSummary> {
    return this.saveChecked(id, checkDocument(data), { revision, saveId: null, before: null })
  }

  /**
   * Replaces a puppet if nobody saved since the revision that the save is based on. A save that was done already, as when its answer
   * was lost and it is sent again, is answered as it was. Throws ApiError 412 with the present revision otherwise.
   */
  async saveChecked(id: string, checked: Checked, { revision, saveId, before }: Saving): Promise<PuppetSummary> {
    if (checked.id !== id) throw new ApiError(422, 'puppet.id', `The document belongs to the puppet "${checked.id}", not to "${id}".`)
    await this.checkAssets(checked)
    const conflict = await this.db.write(async (transaction) => {
      const row = await this.row(id, transaction)
      const done = saveId === null ? null : await this.revisions.ofSave(id, saveId, transaction)
      if (done !== null) return { ...summaryOf(row), revision: done }
      if (row.revision === revision) {
        if (before) await this.revisions.pin(id, row.revision, before, transaction)
        return this.replace(row, checked, saveId, transaction)
      }
      await this.revisions.pin(id, row.revision, 'conflict', transaction)
      const message = `"${row.name}" was saved elsewhere in the meantime (revision ${row.revision}, yours is based on ${revision}).`
      const last = await this.revisions.saveIdOf(id, row.revision, transaction)
      return new ApiError(412, 'puppet.conflict', message, { revision: row.revision, saveId: last })
    })
    if (conflict instanceof ApiError) throw conflict
    return conflict
  }

  /** Replaces a puppet by a changed copy of what it is. */
  async change(id: string, make: (document: string) => Promise<Checked>): Promise<PuppetSummary> {
    const { document, revision } = await this.text(id)
    return this.saveChecked(id, await make(document), { revision, saveId: null, before: null })
  }

  /** Moves a puppet to the trash. */
  remove(id: string): Promise<void> {
    return this.db.free(async (transaction) => {
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
    return this.db.free(async (transaction) => {
      const row = await this.db.puppets.findByPk(id, { transaction })
      if (!row) throw missing(id)
      if (row.deletedAt === null) throw new ApiError(409, 'puppet.kept', `"${row.name}" does not lie in the trash.`)
      await this.revisions.drop(id, null, transaction)
      await row.destroy({ transaction })
    })
  }

  /** A save whose pictures never arrived would show holes for ever. */
  private async checkAssets({ name, assets }: Checked): Promise<void> {
    const missing = await this.assets.missing(assets)
    if (missing.length > 0)
      throw new ApiError(422, 'asset.missing', `A picture or sound of "${name}" is not in the library yet.`, { missing })
  }

  private async replace(row: PuppetRow, checked: Checked, saveId: string | null, transaction: Transaction): Promise<PuppetSummary> {
    await row.update({ ...columnsOf(checked), revision: row.revision + 1 }, { transaction })
    await this.revisions.keep(row.id, row.revision, checked.document, saveId, transaction)
    return summaryOf(row)
  }

  private async row(id: string, transaction: Transaction | null = null): Promise<PuppetRow> {
    const row = await this.db.puppets.findOne({ where: { id, deletedAt: null }, transaction })
    if (!row) throw missing(id)
    return row
  }

  private async insert(checked: Checked, transaction: Transaction): Promise<PuppetSummary> {
    const isTaken = await this.db.puppets.findByPk(checked.id, { attributes: ['id'], transaction })
    const { id, ...columns } = { id: checked.id, ...columnsOf(checked), ...(isTaken && underFreshId(checked)) }
    const row = await this.db.puppets.create({ id, ...columns, revision: 1, deletedAt: null }, { transaction })
    await this.revisions.keep(id, 1, columns.document, null, transaction)
    return summaryOf(row)
  }
}

export interface Saving {
  /** Revision that the save is based on. */
  readonly revision: number
  /** What the page calls this save, to recognise it when it comes again. */
  readonly saveId: string | null
  /** Whether what is there is kept whatever its age, because somebody went back from it. */
  readonly before: Pinned | null
}

/** A document under an id that nothing has. */
function underFreshId({ document }: Checked): { id: string; document: string } {
  const puppet = JSON.parse(document) as Puppet
  const id = freshId('puppet')
  return { id, document: canonicalJson(withPuppetId(puppet, id)) }
}

const columnsOf = ({ name, note, parts, bones, document }: Checked) => ({ name, note, parts, bones, document })

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
