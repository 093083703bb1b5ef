/** Earlier states of puppets: one for each save, thinned by age, never when a person named it. */
import { promisify } from 'node:util'
import { deflateRaw, inflateRaw } from 'node:zlib'
import { Op, type Transaction } from 'sequelize'
import { hashesIn } from './assetUse'
import type { Database } from './db/database'
import { ApiError } from './errors'
import { sure } from '@marionette/core/kernel/sure'

const deflate = promisify<string, { level: number }, Buffer>(deflateRaw)
/** Nearly as small as the best, in a third of the time. */
export const FAST = 2
const inflate = promisify(inflateRaw)

export interface RevisionSummary {
  readonly revision: number
  readonly name: string | null
  readonly at: string
}

/** Why a version that nobody named is never thinned out: it was the last before a long pause, a conflict, or going back. */
export type Pinned = 'pause' | 'conflict' | 'restore'

const SECOND = 1000
const MINUTE = 60 * SECOND
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR

/** From this long without a save on, the version before is one that somebody may want to go back to. */
export const LONG_PAUSE = 2 * HOUR

/**
 * Of versions up to an age, the last one of each stretch of wall time is kept. Each stretch is made of whole ones of the row above, so
 * that what was kept while it was young is what is kept when it is old.
 */
export const STRETCHES: readonly { readonly upTo: number; readonly stretch: number }[] = [
  { upTo: 10 * MINUTE, stretch: 0 },
  { upTo: HOUR, stretch: 20 * SECOND },
  { upTo: DAY, stretch: 5 * MINUTE },
  { upTo: 7 * DAY, stretch: HOUR },
  { upTo: 366 * DAY, stretch: DAY },
  { upTo: Infinity, stretch: 30 * DAY },
]

export interface Aged {
  readonly revision: number
  readonly name: string | null
  readonly pinned: string | null
  readonly createdAt: Date
}

/** Numbers of the versions that go. Named and pinned ones, the newest and the first stay whatever their age. */
export function thinned(revisions: readonly Aged[], now: number): number[] {
  const newestFirst = [...revisions].sort((a, b) => b.revision - a.revision)
  const [newest, first] = [newestFirst[0]?.revision, newestFirst.at(-1)?.revision]
  const out: number[] = []
  const seen = new Set<string>()
  for (const { revision, name, pinned, createdAt } of newestFirst) {
    const at = createdAt.getTime()
    const { stretch } = sure(STRETCHES.find((s) => now - at <= s.upTo))
    const key = stretch === 0 ? `${revision}` : `${stretch}/${Math.floor(at / stretch)}`
    const isLast = !seen.has(key)
    seen.add(key)
    if (!isLast && name === null && pinned === null && revision !== newest && revision !== first) out.push(revision)
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

  /** The document of a version as it was written. Throws ApiError 404. */
  async text(puppetId: string, revision: number): Promise<string> {
    const row = await this.db.revisions.findOne({ where: { puppetId, revision }, attributes: ['document'] })
    if (!row) throw missingRevision(revision)
    return (await inflate(row.document)).toString('utf8')
  }

  /** The version that a save with this id made, or null. */
  async ofSave(puppetId: string, saveId: string, transaction: Transaction): Promise<number | null> {
    const row = await this.db.revisions.findOne({ where: { puppetId, saveId }, attributes: ['revision'], transaction })
    return row?.revision ?? null
  }

  /** What the save that made a version was called, or null. */
  async saveIdOf(puppetId: string, revision: number, transaction: Transaction | null = null): Promise<string | null> {
    const row = await this.db.revisions.findOne({ where: { puppetId, revision }, attributes: ['saveId'], transaction })
    return row?.saveId ?? null
  }

  /** Gives a revision a name, or takes it away with null. */
  name(puppetId: string, revision: number, name: string | null): Promise<void> {
    return this.db.write(async (transaction) => {
      const [count] = await this.db.revisions.update({ name }, { where: { puppetId, revision }, transaction })
      if (count === 0) throw missingRevision(revision)
    })
  }

  /** Keeps a version whatever its age. */
  async pin(puppetId: string, revision: number, pinned: Pinned, transaction: Transaction): Promise<void> {
    await this.db.revisions.update({ pinned }, { where: { puppetId, revision, pinned: null }, transaction })
  }

  /** Keeps a state that was just saved, and thins out older ones. Part of the save's own transaction. */
  async keep(puppetId: string, revision: number, document: string, saveId: string | null, transaction: Transaction): Promise<void> {
    const now = new Date()
    const attributes = ['revision', 'name', 'pinned', 'createdAt'] as const
    const earlier = await this.db.revisions.findAll({ where: { puppetId }, attributes: [...attributes], transaction })
    const last = earlier.reduce<(typeof earlier)[number] | null>((a, b) => (a && a.revision > b.revision ? a : b), null)
    if (last && now.getTime() - last.createdAt.getTime() > LONG_PAUSE) {
      last.pinned ??= 'pause'
      await this.pin(puppetId, last.revision, 'pause', transaction)
    }
    const packed = await deflate(document, { level: FAST })
    await this.db.revisions.create({ puppetId, revision, name: null, document: packed, saveId, createdAt: now }, { transaction })
    const uses = [...hashesIn(document)].map((hash) => ({ puppetId, revision, hash }))
    if (uses.length > 0) await this.db.uses.bulkCreate(uses, { transaction })
    const gone = thinned([...earlier, { revision, name: null, pinned: null, createdAt: now }], now.getTime())
    if (gone.length > 0) await this.drop(puppetId, gone, transaction)
  }

  /** Takes versions away; all of a puppet's where none are named. */
  async drop(puppetId: string, revisions: readonly number[] | null, transaction: Transaction): Promise<void> {
    const where = { puppetId, ...(revisions && { revision: { [Op.in]: [...revisions] } }) }
    await this.db.revisions.destroy({ where, transaction })
    await this.db.uses.destroy({ where, transaction })
  }
}

const missingRevision = (revision: number): ApiError => new ApiError(404, 'revision.missing', `Version ${revision} is not kept any more.`)
