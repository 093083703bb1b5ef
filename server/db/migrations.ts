/** Steps that bring the tables up to date, in order; a step is never changed once it was released. */
import { DataTypes, type QueryInterface } from 'sequelize'

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
]
