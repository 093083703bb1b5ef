/**
 * The database module as Sequelize gets it: every connection that it opens, also those of transactions, is set up before anything
 * runs on it. Settings of SQLite belong to a connection, not to the file.
 */
import sqlite3 from 'sqlite3'

/** Written through to the disk before a save is confirmed; waits for other programs that hold the file. */
export const CONNECTION_SETTINGS = 'PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON; PRAGMA busy_timeout = 10000;'

type Opened = (this: sqlite3.Database, error: Error | null) => void

class SetUpDatabase extends sqlite3.Database {
  constructor(file: string, mode?: number | Opened, opened?: Opened) {
    const done = typeof mode === 'function' ? mode : opened
    super(file, typeof mode === 'number' ? mode : sqlite3.OPEN_READWRITE | sqlite3.OPEN_CREATE, (error) => {
      if (error) return done?.call(this, error)
      // A file that is no database fails here, as it would with the first query.
      this.exec(CONNECTION_SETTINGS, (failed) => done?.call(this, failed))
    })
  }
}

export const connectionModule = { ...sqlite3, Database: SetUpDatabase }
