/** Tables as Sequelize models. */
import {
  DataTypes,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type Sequelize,
} from 'sequelize'

export interface PuppetRow extends Model<InferAttributes<PuppetRow>, InferCreationAttributes<PuppetRow>> {
  id: string
  name: string
  note: string
  parts: number
  bones: number
  revision: number
  /** Canonical JSON of the puppet. */
  document: string
  createdAt: CreationOptional<Date>
  updatedAt: CreationOptional<Date>
  /** Set while the puppet lies in the trash. */
  deletedAt: Date | null
}

export type PuppetModel = ModelStatic<PuppetRow>

export const definePuppets = (sequelize: Sequelize): PuppetModel =>
  sequelize.define<PuppetRow>(
    'puppet',
    {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: DataTypes.STRING,
      note: DataTypes.STRING,
      parts: DataTypes.INTEGER,
      bones: DataTypes.INTEGER,
      revision: DataTypes.INTEGER,
      document: DataTypes.TEXT,
      createdAt: DataTypes.DATE,
      updatedAt: DataTypes.DATE,
      deletedAt: DataTypes.DATE,
    },
    { tableName: 'puppets', timestamps: true },
  )
