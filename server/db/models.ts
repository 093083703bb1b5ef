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

export interface RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  puppetId: string
  revision: number
  /** Given by a person; a revision with a name is never thinned out. */
  name: string | null
  /** Canonical JSON of the puppet, deflated. */
  document: Buffer
  /** What the page called the save that made it, so that the same one sent again is recognised. */
  saveId: CreationOptional<string | null>
  /** Why it is never thinned out although nobody named it: it was the last before a pause, a conflict or going back. */
  pinned: CreationOptional<string | null>
  createdAt: CreationOptional<Date>
}

export type RevisionModel = ModelStatic<RevisionRow>

export const defineRevisions = (sequelize: Sequelize): RevisionModel =>
  sequelize.define<RevisionRow>(
    'revision',
    {
      puppetId: { type: DataTypes.STRING, primaryKey: true },
      revision: { type: DataTypes.INTEGER, primaryKey: true },
      name: DataTypes.STRING,
      document: DataTypes.BLOB,
      saveId: DataTypes.STRING,
      pinned: DataTypes.STRING,
      createdAt: DataTypes.DATE,
    },
    { tableName: 'revisions', timestamps: true, updatedAt: false },
  )

export interface AssetRow extends Model<InferAttributes<AssetRow>, InferCreationAttributes<AssetRow>> {
  /** SHA-256 of the bytes. */
  hash: string
  type: string
  bytes: Buffer
  /** When a page said last that it needs it. */
  neededAt: CreationOptional<Date | null>
  createdAt: CreationOptional<Date>
}

export type AssetModel = ModelStatic<AssetRow>

export const defineAssets = (sequelize: Sequelize): AssetModel =>
  sequelize.define<AssetRow>(
    'asset',
    {
      hash: { type: DataTypes.STRING, primaryKey: true },
      type: DataTypes.STRING,
      bytes: DataTypes.BLOB,
      neededAt: DataTypes.DATE,
      createdAt: DataTypes.DATE,
    },
    { tableName: 'assets', timestamps: true, updatedAt: false },
  )

export interface TemplateRow extends Model<InferAttributes<TemplateRow>, InferCreationAttributes<TemplateRow>> {
  id: string
  name: string
  /** JSON of the template. */
  document: string
  createdAt: CreationOptional<Date>
}

export type TemplateModel = ModelStatic<TemplateRow>

export const defineTemplates = (sequelize: Sequelize): TemplateModel =>
  sequelize.define<TemplateRow>(
    'template',
    { id: { type: DataTypes.STRING, primaryKey: true }, name: DataTypes.STRING, document: DataTypes.TEXT, createdAt: DataTypes.DATE },
    { tableName: 'templates', timestamps: true, updatedAt: false },
  )

/** A picture that a version of a puppet is painted with. */
export interface UseRow extends Model<InferAttributes<UseRow>, InferCreationAttributes<UseRow>> {
  puppetId: string
  revision: number
  hash: string
}

export type UseModel = ModelStatic<UseRow>

export const defineUses = (sequelize: Sequelize): UseModel =>
  sequelize.define<UseRow>(
    'use',
    {
      puppetId: { type: DataTypes.STRING, primaryKey: true },
      revision: { type: DataTypes.INTEGER, primaryKey: true },
      hash: { type: DataTypes.STRING, primaryKey: true },
    },
    { tableName: 'revision_assets', timestamps: false },
  )

export interface ThumbnailRow extends Model<InferAttributes<ThumbnailRow>, InferCreationAttributes<ThumbnailRow>> {
  /** Hash of the document that it shows. */
  key: string
  /** Null where it could not be drawn. */
  png: Buffer | null
  createdAt: CreationOptional<Date>
}

export type ThumbnailModel = ModelStatic<ThumbnailRow>

export const defineThumbnails = (sequelize: Sequelize): ThumbnailModel =>
  sequelize.define<ThumbnailRow>(
    'thumbnail',
    { key: { type: DataTypes.STRING, primaryKey: true }, png: DataTypes.BLOB, createdAt: DataTypes.DATE },
    { tableName: 'thumbnails', timestamps: true, updatedAt: false },
  )
