/**
 * The library's database. SQLite has one writer, and Sequelize opens a connection for each transaction: every write
 * goes through one process-wide mutex, or concurrent ones fail with "database is locked".
 */
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { Mutex } from 'async-mutex'
import { Sequelize } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { MIGRATIONS } from './migrations'
import { definePuppets, type PuppetModel } from './models'

export interface Database {
  readonly puppets: PuppetModel
  /** Runs a write alone. */
  write<T>(work: () => Promise<T>): Promise<T>
  close(): Promise<void>
}

/** Opens the database in a folder (or in memory with null), bringing its tables up to date. */
export async function openDatabase(folder: string | null): Promise<Database> {
  if (folder !== null) mkdirSync(folder, { recursive: true })
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    storage: folder === null ? ':memory:' : join(folder, 'library.sqlite'),
    logging: false,
  })
  await sequelize.query('PRAGMA journal_mode = WAL')
  await sequelize.query('PRAGMA synchronous = FULL')
  await sequelize.query('PRAGMA foreign_keys = ON')
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, up }) => ({ name, up: () => up(sequelize.getQueryInterface()) })),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  })
  await umzug.up()
  const mutex = new Mutex()
  return {
    puppets: definePuppets(sequelize),
    write: (work) => mutex.runExclusive(work),
    close: () => mutex.runExclusive(() => sequelize.close()),
  }
}
