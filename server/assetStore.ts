/** Pictures and sounds by the hash of their bytes. */
import { createHash } from 'node:crypto'
import { Op } from 'sequelize'
import { sniffAsset } from '@marionette/formats/assets'
import type { Database } from './db/database'
import { ApiError } from './errors'
import { sure } from '@marionette/core/kernel/sure'

export interface StoredAsset {
  readonly type: string
  readonly bytes: Buffer
}

/** How long a picture stays that nothing in the library needs: a page that is open may still want it. */
export const GRACE = 7 * 24 * 3600 * 1000

export class AssetStore {
  constructor(private readonly db: Database) {}

  async get(hash: string): Promise<StoredAsset> {
    const row = await this.db.assets.findByPk(hash)
    if (!row) throw new ApiError(404, 'asset.missing', 'That picture or sound is not in the library.')
    return { type: row.type, bytes: row.bytes }
  }

  /** Keeps a picture. What it is is told by its bytes, whatever the request says of them. */
  async add(hash: string, bytes: Uint8Array): Promise<void> {
    const type = sniffAsset(bytes)
    if (!type)
      throw new ApiError(415, 'asset.type', 'Only PNG, JPEG, WebP and GIF pictures and WAV, MP3, M4A, OGG and FLAC sounds are kept.')
    if (createHash('sha256').update(bytes).digest('hex') !== hash)
      throw new ApiError(422, 'asset.hash', 'What was sent is not what its name says.')
    const neededAt = new Date()
    await this.db.write(async (transaction) => {
      const [known] = await this.db.assets.update({ neededAt }, { where: { hash }, transaction })
      if (known === 0) await this.db.assets.create({ hash, type, bytes: Buffer.from(bytes), neededAt }, { transaction })
    })
  }

  /** Those of some hashes that are not in the library. */
  async missing(hashes: Iterable<string>): Promise<string[]> {
    const wanted = [...hashes]
    if (wanted.length === 0) return []
    const rows = await this.db.assets.findAll({ where: { hash: { [Op.in]: wanted } }, attributes: ['hash'] })
    const known = new Set(rows.map((r) => r.hash))
    return wanted.filter((hash) => !known.has(hash))
  }

  /** Notes that a page needs pictures, which keeps them for the time of grace. Returns those that are not there. */
  async needed(hashes: readonly string[]): Promise<string[]> {
    const where = { hash: { [Op.in]: [...hashes] } }
    if (hashes.length > 0) await this.db.write((transaction) => this.db.assets.update({ neededAt: new Date() }, { where, transaction }))
    return this.missing(hashes)
  }

  /** Bytes of some assets; those that are missing are left out. */
  async read(hashes: Iterable<string>): Promise<Map<string, Uint8Array>> {
    const rows = await this.db.assets.findAll({ where: { hash: { [Op.in]: [...hashes] } } })
    return new Map(rows.map((r) => [r.hash, r.bytes]))
  }

  /**
   * Takes away pictures that no version of any puppet needs, those in the trash included, and that no page asked for within the time
   * of grace. Returns how many.
   */
  async sweep(now = Date.now()): Promise<number> {
    const before = new Date(now - GRACE)
    const inUse = sure(this.db.assets.sequelize).literal('(SELECT hash FROM revision_assets)')
    return this.db.free((transaction) =>
      this.db.assets.destroy({
        where: {
          hash: { [Op.notIn]: inUse },
          createdAt: { [Op.lt]: before },
          [Op.or]: [{ neededAt: null }, { neededAt: { [Op.lt]: before } }],
        },
        transaction,
      }),
    )
  }
}
