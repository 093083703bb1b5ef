/**
 * The library's database. SQLite has one writer, and Sequelize opens a connection for each transaction: every write
 * goes through one process-wide mutex, or concurrent ones fail with "database is locked".
 */
import { accessSync, constants, mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { Mutex } from 'async-mutex'
import { QueryTypes, Sequelize, type Transaction } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { MIGRATIONS } from './migrations'
import {
  defineAssets,
  defineTemplates,
  definePuppets,
  defineRevisions,
  defineThumbnails,
  defineUses,
  type AssetModel,
  type TemplateModel,
  type PuppetModel,
  type RevisionModel,
  type ThumbnailModel,
  type UseModel,
} from './models'
import { connectionModule } from './connection'
import { isDamage, isFull, storageMessage } from './problems'
import { Reserve } from './reserve'

export interface Database {
  readonly puppets: PuppetModel
  readonly revisions: RevisionModel
  readonly assets: AssetModel
  readonly templates: TemplateModel
  readonly uses: UseModel
  readonly thumbnails: ThumbnailModel
  /** Folder that the database lies in, and its file. */
  readonly folder: string
  readonly file: string
  /** Runs a write alone, whole or not at all. */
  write<T>(work: (transaction: Transaction) => Promise<T>): Promise<T>
  /** Runs a write that makes room: on a full disk it gets what is kept in reserve for it. */
  free<T>(work: (transaction: Transaction) => Promise<T>): Promise<T>
  /** Runs work of another connection while nothing is written here. */
  alone<T>(work: () => Promise<T>): Promise<T>
  /** Settings of the connections that are open, for tests: each has its own. */
  query<T extends object>(sql: string, transaction?: Transaction): Promise<T[]>
  /** Runs first in every write, on its connection: lets tests fill the disk. */
  beforeWrite: ((query: (sql: string) => Promise<Record<string, unknown>>) => Promise<void>) | null
  close(): Promise<void>
}

export const DATABASE_FILE = 'library.sqlite'

/** A library that cannot be opened; the message says what is wrong and what to do. */
export class LibraryError extends Error {}

/** Opens the database in a folder, bringing its tables up to date. Throws LibraryError; a damaged file is left as it is. */
export async function openDatabase(folder: string): Promise<Database> {
  makeFolder(folder)
  const file = join(folder, DATABASE_FILE)
  const sequelize = new Sequelize({ dialect: 'sqlite', dialectModule: connectionModule, storage: file, logging: false })
  try {
    await prepare(sequelize)
  } catch (error) {
    // Not waited for: a pool that never got a connection never closes.
    void sequelize.close().catch(() => undefined)
    throw asLibraryError(error, folder)
  }
  const database = databaseOf(sequelize, folder)
  new Reserve(folder).fill()
  return database
}

function databaseOf(sequelize: Sequelize, folder: string): Database {
  const mutex = new Mutex()
  const reserve = new Reserve(folder)
  const database: Database = {
    puppets: definePuppets(sequelize),
    revisions: defineRevisions(sequelize),
    assets: defineAssets(sequelize),
    templates: defineTemplates(sequelize),
    uses: defineUses(sequelize),
    thumbnails: defineThumbnails(sequelize),
    folder,
    file: join(folder, DATABASE_FILE),
    beforeWrite: null,
    alone: (work) => mutex.runExclusive(work),
    query: <T extends object>(sql: string, transaction?: Transaction) =>
      sequelize.query<T>(sql, { type: QueryTypes.SELECT, ...(transaction && { transaction }) }),
    free: async (work) => {
      try {
        return await database.write(work)
      } catch (error) {
        if (!isFull(error) || !reserve.open()) throw error
        try {
          return await database.write(work)
        } finally {
          await mutex.runExclusive(() => sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)')).catch(() => undefined)
          reserve.fill()
        }
      }
    },
    write: (work) =>
      mutex.runExclusive(() =>
        sequelize.transaction(async (transaction) => {
          await database.beforeWrite?.(async (sql) => {
            const rows = await sequelize.query<Record<string, unknown>>(sql, { type: QueryTypes.SELECT, transaction })
            return rows[0] ?? {}
          })
          return work(transaction)
        }),
      ),
    close: () => mutex.runExclusive(() => sequelize.close()),
  }
  return database
}

function makeFolder(folder: string): void {
  try {
    mkdirSync(folder, { recursive: true })
    accessSync(folder, constants.W_OK)
  } catch {
    throw new LibraryError(
      `The data folder ${folder} cannot be written. Nothing was changed. Give this user the right to write there, or set MARIONETTE_DATA to another folder.`,
    )
  }
}

async function prepare(sequelize: Sequelize): Promise<void> {
  const [check] = await sequelize.query<{ quick_check: string }>('PRAGMA quick_check(1)', { type: QueryTypes.SELECT })
  if (check?.quick_check !== 'ok') throw new Damage()
  await sequelize.query('PRAGMA journal_mode = WAL')
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, up }) => ({ name, up: () => up(sequelize.getQueryInterface()) })),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  })
  await umzug.up()
}

class Damage extends Error {}

function asLibraryError(error: unknown, folder: string): Error {
  if (error instanceof Damage || isDamage(error))
    return new LibraryError(
      `The library file ${join(folder, DATABASE_FILE)} is damaged. It was left as it is. "npm run -s library -- rescue FILE" saves what can still be read as a backup; then move the file away, start again, and bring the backup back with "npm run -s library -- restore FILE".`,
    )
  const message = storageMessage(error)
  return message ? new LibraryError(`The library in ${folder} cannot be opened: ${message}`) : (error as Error)
}
