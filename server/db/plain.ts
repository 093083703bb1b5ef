/** A connection of its own with promises, for work that reads or writes whole libraries in a worker. */
import sqlite3 from 'sqlite3'
import { CONNECTION_SETTINGS } from './connection'

export type Row = Record<string, unknown>

export class PlainDatabase {
  private constructor(private readonly db: sqlite3.Database) {}

  /** Opens a file; `readonly` never changes it. */
  static async open(file: string, readonly = false): Promise<PlainDatabase> {
    const mode = readonly ? sqlite3.OPEN_READONLY : sqlite3.OPEN_READWRITE | sqlite3.OPEN_CREATE
    const db = await new Promise<sqlite3.Database>((resolve, reject) => {
      const made = new sqlite3.Database(file, mode, (error) => (error ? reject(error) : resolve(made)))
    })
    const plain = new PlainDatabase(db)
    await plain.exec(CONNECTION_SETTINGS)
    return plain
  }

  exec(sql: string): Promise<void> {
    return new Promise((resolve, reject) => this.db.exec(sql, (error) => (error ? reject(error) : resolve())))
  }

  run(sql: string, ...values: unknown[]): Promise<number> {
    return new Promise((resolve, reject) =>
      this.db.run(sql, values, function (error) {
        if (error) reject(error)
        else resolve(this.changes)
      }),
    )
  }

  all<T = Row>(sql: string, ...values: unknown[]): Promise<T[]> {
    return new Promise((resolve, reject) => this.db.all(sql, values, (error, rows) => (error ? reject(error) : resolve(rows as T[]))))
  }

  async get<T = Row>(sql: string, ...values: unknown[]): Promise<T | undefined> {
    return (await this.all<T>(sql, ...values))[0]
  }

  close(): Promise<void> {
    return new Promise((resolve, reject) => this.db.close((error) => (error ? reject(error) : resolve())))
  }
}
