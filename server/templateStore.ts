/** Templates that people saved. */
import { Template } from '@marionette/core/templates/template'
import type { Database } from './db/database'
import { ApiError } from './errors'

/** Most templates that a library keeps. */
const MOST = 500

export class TemplateStore {
  constructor(private readonly db: Database) {}

  /** All of them, the newest first; those that a newer version wrote and this one cannot read are left out. */
  async list(): Promise<Template[]> {
    const rows = await this.db.templates.findAll({ order: [['createdAt', 'DESC']] })
    return rows.flatMap((row) => {
      const read = Template.safeParse(JSON.parse(row.document))
      return read.success ? [read.data] : []
    })
  }

  async add(template: Template): Promise<void> {
    await this.db.write(async (transaction) => {
      if ((await this.db.templates.count({ transaction })) >= MOST)
        throw new ApiError(409, 'template.many', `The library keeps ${MOST} templates; take one away first.`)
      if (await this.db.templates.findByPk(template.id, { transaction }))
        throw new ApiError(409, 'template.exists', 'There is a template with this id already.')
      await this.db.templates.create({ id: template.id, name: template.name, document: JSON.stringify(template) }, { transaction })
    })
  }

  async remove(id: string): Promise<void> {
    const gone = await this.db.write((transaction) => this.db.templates.destroy({ where: { id }, transaction }))
    if (gone === 0) throw new ApiError(404, 'template.missing', 'That template is not in the library.')
  }
}
