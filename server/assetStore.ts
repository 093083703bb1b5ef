/** Raster pictures by the hash of their bytes. */
import { createHash } from 'node:crypto'
import { Op } from 'sequelize'
import { sniffPicture } from '@marionette/formats/assets'
import type { Database } from './db/database'
import { ApiError } from './errors'

export interface StoredAsset {
  readonly type: string
  readonly bytes: Buffer
}

export class AssetStore {
  constructor(private readonly db: Database) {}

  async get(hash: string): Promise<StoredAsset> {
    const row = await this.db.assets.findByPk(hash)
    if (!row) throw new ApiError(404, 'asset.missing', 'That picture is not in the library.')
    return { type: row.type, bytes: row.bytes }
  }

  /** Keeps a picture. What it is is told by its bytes, whatever the request says of them. */
  async add(hash: string, bytes: Uint8Array): Promise<void> {
    const type = sniffPicture(bytes)
    if (!type) throw new ApiError(415, 'asset.type', 'Only PNG, JPEG, WebP and GIF pictures are kept.')
    if (createHash('sha256').update(bytes).digest('hex') !== hash)
      throw new ApiError(422, 'asset.hash', 'The picture is not the one that its name says.')
    await this.db.write(async (transaction) => {
      const known = await this.db.assets.findByPk(hash, { attributes: ['hash'], transaction })
      if (!known) await this.db.assets.create({ hash, type, bytes: Buffer.from(bytes) }, { transaction })
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

  /** Bytes of some assets; those that are missing are left out. */
  async read(hashes: Iterable<string>): Promise<Map<string, Uint8Array>> {
    const rows = await this.db.assets.findAll({ where: { hash: { [Op.in]: [...hashes] } } })
    return new Map(rows.map((r) => [r.hash, r.bytes]))
  }
}
