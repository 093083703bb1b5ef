/** All that a suite of the real interface needs: a server of its own, a browser with one page, and a folder for files. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import { afterAll, beforeAll } from 'vitest'
import { sure } from '@marionette/core/kernel/sure'
import { launchBrowser, openPage } from './browser'
import { downloadsInto, Editor } from './editor'
import { startTestServer, type TestServer } from './server'

export interface Session {
  readonly server: TestServer
  readonly browser: Browser
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
export function sessionOfFile(): Pick<Session, 'server' | 'page' | 'editor' | 'errors' | 'file'> {
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
  const server = await startTestServer()
  const browser = await launchBrowser()
  const folder = mkdtempSync(join(tmpdir(), 'marionette-files-'))
  await downloadsInto(browser, folder)
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
