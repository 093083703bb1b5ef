/** Pictures of puppets for the library, drawn once for each content and remembered; what cannot be drawn gets a plain one. */
import { createHash } from 'node:crypto'
import { hashesIn } from './assetUse'
import type { Database } from './db/database'
import type { Jobs } from './jobs/jobs'
import type { PuppetStore } from './puppetStore'
import { PLAIN_PICTURE } from './plainPicture'

/** Grows when thumbnails come to look otherwise. */
const LOOK = 1
/** Pictures that are remembered. */
const MOST = 2000

export class Thumbnails {
  private readonly drawing = new Map<string, Promise<Uint8Array>>()

  constructor(
    private readonly store: PuppetStore,
    private readonly jobs: Jobs,
    private readonly db: Database,
  ) {}

  /** PNG of the puppet's present pose, cut to what it shows. */
  async get(id: string): Promise<{ revision: number; png: Uint8Array }> {
    const { document, revision } = await this.store.text(id)
    return { revision, png: await this.of(document) }
  }

  /** PNG of an earlier version. */
  async ofRevision(id: string, revision: number): Promise<Uint8Array> {
    return this.of(await this.store.revisions.text(id, revision))
  }

  /** The picture of a document: remembered by its content, so that it can be that of no other. */
  private async of(document: string): Promise<Uint8Array> {
    const key = `${LOOK}-${createHash('sha256').update(document).digest('hex')}`
    const known = await this.db.thumbnails.findByPk(key)
    if (known) return known.png ?? PLAIN_PICTURE
    const drawing = this.drawing.get(key) ?? this.draw(key, document).finally(() => this.drawing.delete(key))
    this.drawing.set(key, drawing)
    return drawing
  }

  private async draw(key: string, document: string): Promise<Uint8Array> {
    const assets = await this.store.assets.read(hashesIn(document))
    // A document that cannot be drawn now cannot be drawn at the next visit either.
    const png = await this.jobs.thumbnail(document, assets).catch(() => null)
    await this.remember(key, png).catch(() => undefined)
    return png ?? PLAIN_PICTURE
  }

  private async remember(key: string, png: Uint8Array | null): Promise<void> {
    await this.db.write(async (transaction) => {
      await this.db.thumbnails.upsert({ key, png: png && Buffer.from(png) }, { transaction })
      const more = (await this.db.thumbnails.count({ transaction })) - MOST
      if (more <= 0) return
      const oldest = await this.db.thumbnails.findAll({ attributes: ['key'], order: [['createdAt', 'ASC']], limit: more, transaction })
      await this.db.thumbnails.destroy({ where: { key: oldest.map((t) => t.key) }, transaction })
    })
  }
}
