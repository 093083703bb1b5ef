/** Earlier states of puppets: one for each save, thinned by age, never when a person named it. */
import { promisify } from 'node:util'
import { deflateRaw, inflateRaw } from 'node:zlib'
import { Op, type Transaction } from 'sequelize'
import { readPuppet } from '@marionette/core/document/migrate'
import type { Puppet } from '@marionette/core/document/schema'
import type { Database } from './db/database'
import { ApiError } from './errors'

const deflate = promisify<string, { level: number }, Buffer>(deflateRaw)
/** Nearly as small as the best, in a third of the time. */
const FAST = 2
const inflate = promisify(inflateRaw)

export interface RevisionSummary {
  readonly revision: number
  readonly name: string | null
  readonly at: string
}

const MINUTE = 60_000
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR

/** Of revisions up to an age, one is kept for each spacing. */
const SPACINGS: readonly { readonly upTo: number; readonly spacing: number }[] = [
  { upTo: 10 * MINUTE, spacing: 20_000 },
  { upTo: HOUR, spacing: 2 * MINUTE },
  { upTo: DAY, spacing: 20 * MINUTE },
  { upTo: 30 * DAY, spacing: DAY },
  { upTo: Infinity, spacing: 7 * DAY },
]

/** Numbers of the revisions that go: those that stand closer to a newer one than their age allows. Named ones, the newest and the first stay. */
export function thinned(revisions: readonly { revision: number; name: string | null; createdAt: Date }[], now: number): number[] {
  const newestFirst = [...revisions].sort((a, b) => b.revision - a.revision)
  const first = newestFirst.at(-1)
  const out: number[] = []
  let kept = Infinity
  for (const { revision, name, createdAt } of newestFirst) {
    if (revision === first?.revision) continue
    const at = createdAt.getTime()
    const { spacing } = SPACINGS.find((s) => now - at <= s.upTo)!
    if (kept === Infinity || name !== null || kept - at >= spacing) kept = at
    else out.push(revision)
  }
  return out
}

export class Revisions {
  constructor(private readonly db: Database) {}

  /** Newest first. */
  async list(puppetId: string): Promise<RevisionSummary[]> {
    const rows = await this.db.revisions.findAll({
      where: { puppetId },
      attributes: ['revision', 'name', 'createdAt'],
      order: [['revision', 'DESC']],
    })
    return rows.map((row) => ({ revision: row.revision, name: row.name, at: row.createdAt.toISOString() }))
  }

  async get(puppetId: string, revision: number): Promise<Puppet> {
    const row = await this.db.revisions.findOne({ where: { puppetId, revision } })
    if (!row) throw missingRevision(revision)
    return readPuppet(JSON.parse((await inflate(row.document)).toString('utf8')))
  }

  /** Gives a revision a name, or takes it away with null. */
  name(puppetId: string, revision: number, name: string | null): Promise<void> {
    return this.db.write(async (transaction) => {
      const [count] = await this.db.revisions.update({ name }, { where: { puppetId, revision }, transaction })
      if (count === 0) throw missingRevision(revision)
    })
  }

  /** Keeps a state that was just saved, and thins out older ones. Part of the save's own transaction. */
  async keep(puppetId: string, revision: number, document: string, transaction: Transaction): Promise<void> {
    await this.db.revisions.create({ puppetId, revision, name: null, document: await deflate(document, { level: FAST }) }, { transaction })
    const rows = await this.db.revisions.findAll({ where: { puppetId }, attributes: ['revision', 'name', 'createdAt'], transaction })
    const gone = thinned(rows, Date.now())
    if (gone.length > 0) await this.db.revisions.destroy({ where: { puppetId, revision: { [Op.in]: gone } }, transaction })
  }
}

const missingRevision = (revision: number): ApiError => new ApiError(404, 'revision.missing', `Version ${revision} is not kept any more.`)
