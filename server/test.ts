/** A server in a test: a library in a folder that is thrown away, asked without a port. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { makeApp } from './app'
import { openDatabase, type Database } from './db/database'
import { inlineJobs } from './jobs/inline'
import type { Jobs } from './jobs/jobs'
import { openLog } from './middleware/log'
import { PuppetStore } from './puppetStore'

export interface Answer {
  readonly status: number
  readonly headers: Headers
  // Whatever the server answers with; each test says what it expects.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  readonly body: any
}

export class TestLibrary {
  private constructor(
    readonly folder: string,
    public db: Database,
    private readonly maxRequests: number,
  ) {}

  /** Where the heavy work is done, and what is asked for at the door. */
  jobs: Jobs = inlineJobs
  passcode: string | null = null

  static async open(maxRequests = 10_000): Promise<TestLibrary> {
    const folder = mkdtempSync(join(tmpdir(), 'marionette-server-'))
    return new TestLibrary(folder, await openDatabase(folder), maxRequests)
  }

  get store(): PuppetStore {
    return new PuppetStore(this.db)
  }

  private app: ReturnType<typeof makeApp> | null = null

  async ask(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Answer> {
    const { db, store, jobs } = this
    this.app ??= makeApp(
      { store, db, jobs, log: openLog(this.folder, 'off') },
      {
        passcode: this.passcode,
        allowedHosts: ['localhost'],
        maxUploadBytes: 1024 * 1024,
        maxRequests: this.maxRequests,
        appFolder: join(this.folder, 'none'),
      },
    )
    const isRaw = typeof body === 'string' || body instanceof Uint8Array
    const init: RequestInit = {
      method,
      headers: { ...(body === undefined || isRaw ? {} : { 'Content-Type': 'application/json' }), ...headers },
    }
    if (body !== undefined) init.body = isRaw ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body)
    const response = await this.app.request(`http://localhost${path}`, init)
    const isJson = response.headers.get('Content-Type')?.includes('json')
    return {
      status: response.status,
      headers: response.headers,
      body: isJson ? await response.json() : new Uint8Array(await response.arrayBuffer()),
    }
  }

  /** Lets the file grow by so many pages of 4 KB and no further. */
  limitPages(more: number): void {
    this.db.beforeWrite =
      more === Infinity
        ? null
        : async (query) => {
            const count = await query('PRAGMA page_count')
            await query(`PRAGMA max_page_count = ${Number(Object.values(count)[0]) + Math.floor(more)}`)
          }
  }

  /** Makes every write fail as on a disk that may only be read. */
  forbidWriting(forbidden: boolean): void {
    this.db.beforeWrite = forbidden ? async (query) => void (await query('PRAGMA query_only = ON')) : null
  }

  /** Closes the database and opens it again. */
  async reopen(): Promise<void> {
    await this.db.close()
    this.db = await openDatabase(this.folder)
    this.app = null
  }

  async close(): Promise<void> {
    await this.jobs.close()
    await this.db.close().catch(() => undefined)
    rmSync(this.folder, { recursive: true, force: true })
  }
}
