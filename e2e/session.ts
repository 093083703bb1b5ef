/** All that a suite of the real interface needs: a server of its own, a profile of the browser with one page, and a folder for files. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { BrowserContext, Page } from 'puppeteer-core'
import { afterAll, beforeAll } from 'vitest'
import { sure } from '@marionette/core/kernel/sure'
import { freshContext, openPage } from './browser'
import { Editor } from './editor'
import { startTestServer, type TestServer } from './server'

export interface Session {
  readonly server: TestServer
  readonly browser: BrowserContext
  readonly page: Page
  readonly editor: Editor
  /** Errors of the page, as they come. */
  readonly errors: string[]
  /** Files to be taken in, and those that were downloaded. */
  readonly folder: string
  /** Writes a file into the folder and returns its path. */
  file(name: string, bytes: Uint8Array | string): string
  stop(): Promise<void>
}

/** A session for all tests of a file. */
export function sessionOfFile(): Pick<Session, 'server' | 'browser' | 'page' | 'editor' | 'errors' | 'folder' | 'file'> {
  let session: Session | undefined
  beforeAll(async () => {
    session = await startSession()
  })
  afterAll(() => session?.stop())
  const now = (): Session => sure(session)
  return {
    get server() {
      return now().server
    },
    get browser() {
      return now().browser
    },
    get folder() {
      return now().folder
    },
    get page() {
      return now().page
    },
    get editor() {
      return now().editor
    },
    get errors() {
      return now().errors
    },
    file: (name, bytes) => now().file(name, bytes),
  }
}

export async function startSession(): Promise<Session> {
  const folder = mkdtempSync(join(tmpdir(), 'marionette-files-'))
  const [server, browser] = await Promise.all([startTestServer(), freshContext(folder)])
  const { page, errors } = await openPage(browser)
  return {
    ...{ server, browser, page, errors, folder, editor: new Editor(page, server.url) },
    file(name, bytes) {
      writeFileSync(join(folder, name), bytes)
      return join(folder, name)
    },
    async stop() {
      await browser.close()
      await server.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
