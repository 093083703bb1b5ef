/** Steps that bring the tables up to date, in order; a step is never changed once it was released. */
import { promisify } from 'node:util'
import { inflateRaw } from 'node:zlib'
import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize'
import { hashesIn } from '../assetUse'
import { sure } from '@marionette/core/kernel/sure'

const inflate = promisify(inflateRaw)

interface Migration {
  readonly name: string
  readonly up: (tables: QueryInterface) => Promise<void>
}

export const MIGRATIONS: readonly Migration[] = [
  {
    name: '001-puppets',
    up: (tables) =>
      tables.createTable('puppets', {
        id: { type: DataTypes.STRING, primaryKey: true },
        name: { type: DataTypes.STRING, allowNull: false },
        note: { type: DataTypes.STRING, allowNull: false },
        parts: { type: DataTypes.INTEGER, allowNull: false },
        bones: { type: DataTypes.INTEGER, allowNull: false },
        revision: { type: DataTypes.INTEGER, allowNull: false },
        document: { type: DataTypes.TEXT, allowNull: false },
        createdAt: { type: DataTypes.DATE, allowNull: false },
        updatedAt: { type: DataTypes.DATE, allowNull: false },
        deletedAt: { type: DataTypes.DATE, allowNull: true },
      }),
  },
  {
    name: '002-revisions-and-assets',
    up: async (tables) => {
      await tables.createTable('revisions', {
        puppetId: { type: DataTypes.STRING, primaryKey: true, references: { model: 'puppets', key: 'id' }, onDelete: 'CASCADE' },
        revision: { type: DataTypes.INTEGER, primaryKey: true },
        name: { type: DataTypes.STRING, allowNull: true },
        document: { type: DataTypes.BLOB, allowNull: false },
        createdAt: { type: DataTypes.DATE, allowNull: false },
      })
      await tables.createTable('assets', {
        hash: { type: DataTypes.STRING, primaryKey: true },
        type: { type: DataTypes.STRING, allowNull: false },
        bytes: { type: DataTypes.BLOB, allowNull: false },
        createdAt: { type: DataTypes.DATE, allowNull: false },
      })
    },
  },
  {
    name: '003-templates',
    up: async (tables) =>
      tables.createTable('templates', {
        id: { type: DataTypes.STRING, primaryKey: true },
        name: { type: DataTypes.STRING, allowNull: false },
        document: { type: DataTypes.TEXT, allowNull: false },
        createdAt: { type: DataTypes.DATE, allowNull: false },
      }),
  },
  {
    name: '004-pictures-in-use-and-repeated-saves',
    up: async (tables) => {
      await tables.addColumn('revisions', 'saveId', { type: DataTypes.STRING, allowNull: true })
      await tables.addColumn('revisions', 'pinned', { type: DataTypes.STRING, allowNull: true })
      await tables.addColumn('assets', 'neededAt', { type: DataTypes.DATE, allowNull: true })
      await tables.createTable('revision_assets', {
        puppetId: { type: DataTypes.STRING, primaryKey: true },
        revision: { type: DataTypes.INTEGER, primaryKey: true },
        hash: { type: DataTypes.STRING, primaryKey: true },
      })
      await tables.addIndex('revision_assets', ['hash'])
      await tables.createTable('thumbnails', {
        key: { type: DataTypes.STRING, primaryKey: true },
        png: { type: DataTypes.BLOB, allowNull: true },
        createdAt: { type: DataTypes.DATE, allowNull: false },
      })
      await noteUses(tables)
    },
  },
]

/** Notes which pictures the versions need that were there before this was noted with each save. */
async function noteUses({ sequelize }: QueryInterface): Promise<void> {
  const rows = await sequelize.query<{ puppetId: string; revision: number }>('SELECT puppetId, revision FROM revisions', {
    type: QueryTypes.SELECT,
  })
  for (const { puppetId, revision } of rows) {
    const [row] = await sequelize.query<{ document: Buffer }>('SELECT document FROM revisions WHERE puppetId = ? AND revision = ?', {
      type: QueryTypes.SELECT,
      replacements: [puppetId, revision],
    })
    for (const hash of hashesIn((await inflate(sure(row).document)).toString('utf8')))
      await sequelize.query('INSERT OR IGNORE INTO revision_assets VALUES (?, ?, ?)', { replacements: [puppetId, revision, hash] })
  }
}
