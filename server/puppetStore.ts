/** The library: puppets by id, saved only on top of the revision that the writer knows. */
import { freshId } from '@marionette/core/document/ids'
import { PuppetError } from '@marionette/core/document/invariants'
import { canonicalJson } from '@marionette/core/document/json'
import { readPuppet } from '@marionette/core/document/migrate'
import type { Puppet } from '@marionette/core/document/schema'
import { EditError, run } from '@marionette/core/edit/command'
import { renamePuppet } from '@marionette/core/edit/puppet'
import type { Database } from './db/database'
import type { PuppetRow } from './db/models'
import { ApiError, missing } from './errors'

export interface PuppetSummary {
  readonly id: string
  readonly name: string
  readonly note: string
  readonly parts: number
  readonly bones: number
  readonly revision: number
  readonly updatedAt: string
}

export interface StoredPuppet {
  readonly puppet: Puppet
  readonly revision: number
}

export class PuppetStore {
  constructor(private readonly db: Database) {}

  async list(): Promise<PuppetSummary[]> {
    const attributes = ['id', 'name', 'note', 'parts', 'bones', 'revision', 'updatedAt'] as const
    const rows = await this.db.puppets.findAll({ where: { deletedAt: null }, attributes: [...attributes], order: [['updatedAt', 'DESC']] })
    return rows.map(summaryOf)
  }

  /** Whether the library ever held a puppet, the trash included. */
  async isNew(): Promise<boolean> {
    return (await this.db.puppets.count()) === 0
  }

  async get(id: string): Promise<StoredPuppet> {
    const row = await this.row(id)
    return { puppet: readPuppet(JSON.parse(row.document)), revision: row.revision }
  }

  /** Adds a puppet; one whose id is taken gets a new id. */
  add(data: unknown): Promise<PuppetSummary> {
    const puppet = check(data)
    return this.db.write(async () => {
      const taken = await this.db.puppets.findByPk(puppet.id, { attributes: ['id'] })
      return this.insert(taken ? { ...puppet, id: freshId('puppet') } : puppet)
    })
  }

  /** Replaces a puppet if nobody saved since `revision`. Throws ApiError 412 with the present revision otherwise. */
  save(id: string, data: unknown, revision: number): Promise<PuppetSummary> {
    const puppet = check(data)
    if (puppet.id !== id) throw new ApiError(422, 'puppet.id', `The document belongs to the puppet "${puppet.id}", not to "${id}".`)
    return this.db.write(async () => {
      const row = await this.row(id)
      if (row.revision !== revision) {
        const message = `"${row.name}" was saved elsewhere in the meantime (revision ${row.revision}, yours is based on ${revision}).`
        throw new ApiError(412, 'puppet.conflict', message, { revision: row.revision })
      }
      await row.update({ ...columnsOf(puppet), revision: revision + 1 })
      return summaryOf(row)
    })
  }

  rename(id: string, name: string): Promise<PuppetSummary> {
    return this.db.write(async () => {
      const row = await this.row(id)
      const puppet = renamed(readPuppet(JSON.parse(row.document)), name)
      await row.update({ ...columnsOf(puppet), revision: row.revision + 1 })
      return summaryOf(row)
    })
  }

  duplicate(id: string): Promise<PuppetSummary> {
    return this.db.write(async () => {
      const row = await this.row(id)
      const puppet = readPuppet(JSON.parse(row.document))
      return this.insert(renamed({ ...puppet, id: freshId('puppet') }, `${puppet.name} copy`.slice(0, 200)))
    })
  }

  /** Moves a puppet to the trash. */
  remove(id: string): Promise<void> {
    return this.db.write(async () => {
      await (await this.row(id)).update({ deletedAt: new Date() }, { silent: true })
    })
  }

  /** Takes a puppet back out of the trash. */
  restore(id: string): Promise<PuppetSummary> {
    return this.db.write(async () => {
      const row = await this.db.puppets.findByPk(id)
      if (!row) throw missing(id)
      await row.update({ deletedAt: null }, { silent: true })
      return summaryOf(row)
    })
  }

  private async row(id: string): Promise<PuppetRow> {
    const row = await this.db.puppets.findOne({ where: { id, deletedAt: null } })
    if (!row) throw missing(id)
    return row
  }

  private async insert(puppet: Puppet): Promise<PuppetSummary> {
    return summaryOf(await this.db.puppets.create({ id: puppet.id, ...columnsOf(puppet), revision: 1, deletedAt: null }))
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
