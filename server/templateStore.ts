/** What people saved for the next puppet: templates, and clips as ready motions. */
import type { z } from 'zod'
import { KeptMotion } from '@marionette/core/motions/kept'
import { Template } from '@marionette/core/templates/template'
import type { Database } from './db/database'
import { ApiError } from './errors'

/** Most of them that a library keeps. */
const MOST = 500

export class TemplateStore {
  constructor(private readonly db: Database) {}

  /** All templates, the newest first; those that a newer version wrote and this one cannot read are left out. */
  list(): Promise<Template[]> {
    return this.read(Template)
  }

  /** The same of motions. */
  motions(): Promise<KeptMotion[]> {
    return this.read(KeptMotion)
  }

  private async read<T>(schema: z.ZodType<T>): Promise<T[]> {
    const rows = await this.db.templates.findAll({ order: [['createdAt', 'DESC']] })
    return rows.flatMap((row) => {
      const read = schema.safeParse(JSON.parse(row.document))
      return read.success ? [read.data] : []
    })
  }

  async add(kept: Template | KeptMotion): Promise<void> {
    await this.db.write(async (transaction) => {
      if ((await this.db.templates.count({ transaction })) >= MOST)
        throw new ApiError(409, 'template.many', `The library keeps ${MOST} templates and motions; take one away first.`)
      if (await this.db.templates.findByPk(kept.id, { transaction }))
        throw new ApiError(409, 'template.exists', 'There is a template or motion with this id already.')
      await this.db.templates.create({ id: kept.id, name: kept.name, document: JSON.stringify(kept) }, { transaction })
    })
  }

  async remove(id: string): Promise<void> {
    const gone = await this.db.write((transaction) => this.db.templates.destroy({ where: { id }, transaction }))
    if (gone === 0) throw new ApiError(404, 'template.missing', 'That template or motion is not in the library.')
  }
}
