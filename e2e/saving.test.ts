/** Work that must not be lost: over a bad line, in two windows, with a full browser, in the middle of a recording, behind a door. */
import { readdirSync, readFileSync } from 'node:fs'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest'
import { canonicalJson } from '@marionette/core/kernel/json'
import type { Puppet } from '@marionette/core/puppet/schema'
import { HISTORY_LENGTH } from '@marionette/core/puppet/history'
import { seededRandom } from '@marionette/core/maths/solve/random'
import { openPage } from './browser'
import { Editor } from './editor'
import { startRoughLine, TROUBLES, type RoughLine } from './roughLine'
import { startTestServer } from './server'
import { startSession, type Session } from './session'

/** Edits over the bad line; the long run makes 2,000. */
const EDITS = Number(process.env['LONG_EDITS'] ?? 60)

let session: Session
let line: RoughLine

beforeAll(async () => {
  session = await startSession()
  line = await startRoughLine(session.server.url)
})
afterAll(async () => {
  await line?.stop()
  await session?.stop()
})
beforeEach(() => {
  line.isDown = false
  line.trouble = () => 'fine'
})

/** A puppet of its own for a test. */
async function freshPuppet(of = 'dockhand-puppet-1'): Promise<string> {
  const answer = await fetch(`${session.server.url}/api/puppets/${of}/duplicate`, { method: 'POST' })
  return ((await answer.json()) as { id: string }).id
}

async function openOverLine(id: string, bench = 'parts'): Promise<{ page: Page; editor: Editor; errors: string[] }> {
  const { page, errors } = await openPage(session.browser)
  const editor = new Editor(page, line.url)
  await editor.open(id, bench)
  return { page, editor, errors }
}

const stored = async (id: string): Promise<Puppet> =>
  ((await (await fetch(`${session.server.url}/api/puppets/${id}`)).json()) as { puppet: Puppet }).puppet

const saved = (page: Page, timeout = 60_000) => page.waitForSelector('[data-testid=save-state][data-state=saved]', { timeout })

/** Shows or hides the chosen part: one edit. */
const toggle = (page: Page) => page.keyboard.press('v')

async function choose(page: Page, name: string): Promise<void> {
  await (await page.waitForSelector(`[role=treeitem][aria-label="${name}"]`))!.click()
  await page.waitForSelector(`[role=treeitem][aria-label="${name}"][aria-selected=true]`)
}

/** Waits until the browser has kept a draft with a number of changes: a page that dies before that has promised nothing. */
const kept = (page: Page, id: string, changes: number) =>
  page.waitForFunction(
    (puppet: string, many: number) =>
      new Promise<boolean>((resolve) => {
        const opening = indexedDB.open('keyval-store')
        opening.onsuccess = () => {
          const store = opening.result.transaction('keyval').objectStore('keyval')
          const drafts = store.getAll(IDBKeyRange.bound(`draft/${puppet}/`, `draft/${puppet}/\uffff`))
          drafts.onsuccess = () => {
            opening.result.close()
            resolve((drafts.result as { done: number }[]).some(({ done }) => done >= many))
          }
        }
      }),
    { polling: 50 },
    id,
    changes,
  )

const isVisible = (puppet: Puppet, name: string): boolean => Object.values(puppet.parts).find((p) => p.name === name)!.visible

describe('over a line that loses, cuts, doubles and delays', () => {
  test('every edit arrives, none is undone by a late one, and no conflict is made of our own saves', { timeout: 900_000 }, async () => {
    const id = await freshPuppet()
    const { page, editor, errors } = await openOverLine(id)
    await page.evaluate(() => {
      const seen = new Set<string>()
      Object.assign(window, { seenStates: seen })
      const state = document.querySelector('[data-testid=save-state]')!
      new MutationObserver(() => seen.add((state as HTMLElement).dataset['state']!)).observe(state, { attributes: true })
    })
    const random = seededRandom(23)
    line.trouble = () => TROUBLES[Math.floor(random() * TROUBLES.length)]!
    await choose(page, 'Head')
    const before = (await editor.history()).length
    for (let n = 0; n < EDITS; n++) {
      await toggle(page)
      if (n % 5 === 4) await new Promise((done) => setTimeout(done, 60))
      // In the middle, as soon as the last edit is kept, the page dies, and another goes on.
      if (n === 5 * Math.floor(EDITS / 10) + 4) {
        await kept(page, id, Math.min(HISTORY_LENGTH, n + 1))
        await page.reload()
        await editor.drawn()
        await choose(page, 'Head')
      }
    }
    line.trouble = () => 'fine'
    await saved(page, 120_000)
    // A history forgets its oldest steps, in the long run.
    expect(await editor.history()).toHaveLength(Math.min(HISTORY_LENGTH, before + EDITS))
    expect(canonicalJson(await stored(id))).toBe(canonicalJson(await editor.document()))
    expect(await page.evaluate(() => [...((window as unknown as { seenStates?: Set<string> }).seenStates ?? [])])).not.toContain('conflict')
    expect(await page.$('[role=dialog]')).toBeNull()
    expect(errors.filter((e) => !/Failed to load resource|ERR_/.test(e))).toEqual([])
    await page.close()
  })

  test('an answer that is cut off leaves no "Saving…" behind', async () => {
    const { page } = await openOverLine(await freshPuppet())
    let first = true
    line.trouble = () => (first ? ((first = false), 'answer cut') : 'fine')
    await choose(page, 'Head')
    await toggle(page)
    await page.waitForSelector('[data-testid=save-state][data-state=offline]')
    await saved(page)
    await page.close()
  })
})

describe('saving by key', () => {
  test('does not wait for the moment in which a puppet saves itself', async () => {
    const { page, errors } = await openPage(session.browser)
    // That moment never comes here.
    await page.evaluateOnNewDocument(() => {
      const later = window.setTimeout
      Object.assign(window, { setTimeout: (f: () => void, ms = 0) => (ms >= 50 && ms <= 700 ? 0 : later(f, ms)) })
    })
    const editor = new Editor(page, session.server.url)
    await editor.open(await freshPuppet())
    await choose(page, 'Head')
    await toggle(page)
    await page.waitForSelector('[data-testid=save-state][data-state=changed]')
    await page.keyboard.down('Control')
    await page.keyboard.press('s')
    await page.keyboard.up('Control')
    await saved(page)
    expect(errors).toEqual([])
    await page.close()
  })
})

describe('two windows with one puppet', () => {
  test('each keeps its own work: what one could not send is there after the other saved and it was loaded again', async () => {
    const id = await freshPuppet()
    const other = await openOverLine(id)
    const here = await openOverLine(id)
    // One origin, and so one storage, for both; only one of them reaches the server with its saves.
    let isCutOff = true
    await other.page.setRequestInterception(true)
    other.page.on('request', (r) => void (isCutOff && r.method() === 'PUT' ? r.abort() : r.continue()))
    await other.page.bringToFront()
    await choose(other.page, 'Head')
    await toggle(other.page)
    await other.page.waitForSelector('[data-testid=save-state][data-state=offline]')
    await here.page.bringToFront()
    await choose(here.page, 'Jersey')
    await toggle(here.page)
    await saved(here.page)
    isCutOff = false
    await other.page.bringToFront()
    await other.page.reload()
    await other.page.waitForSelector('[role=dialog] ::-p-text(This puppet was saved elsewhere)')
    const mine = await other.page.evaluate(() => document.querySelector('[role=dialog]')!.textContent)
    expect(mine).toContain('Yours')
    await (await other.page.waitForSelector('[role=dialog] button::-p-text(Go on with mine)'))!.click()
    await other.page.waitForFunction((was: string) => !location.pathname.includes(was), {}, id)
    await other.editor.drawn()
    expect(isVisible(await other.editor.document(), 'Head')).toBe(false)
    expect(isVisible(await stored(id), 'Jersey')).toBe(false)
    expect(isVisible(await stored(id), 'Head')).toBe(true)
    await here.page.close()
    await other.page.close()
  })
})

describe('a browser that can keep nothing, and a server that is away', () => {
  test('closing asks first, and the work leaves as a file', async () => {
    const { page } = await openPage(session.browser)
    await page.evaluateOnNewDocument(() => {
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('The disk is full.', 'QuotaExceededError')
      }
    })
    const editor = new Editor(page, line.url)
    const id = await freshPuppet()
    await editor.open(id)
    await editor.sharp()
    line.isDown = true
    await choose(page, 'Head')
    await toggle(page)
    const way = await page.waitForSelector('[data-testid=save-state] button::-p-text(keep as a file)')
    await way!.click()
    const file = async (): Promise<string | undefined> => readdirSync(session.folder).find((name) => /^dockhand.*\.marionette$/.test(name))
    await expect.poll(file).toBeTruthy()
    expect(
      readFileSync(`${session.folder}/${await file()}`)
        .subarray(0, 2)
        .toString(),
    ).toBe('PK')
    const asked = new Promise<string>((resolve) => page.once('dialog', (dialog) => resolve(dialog.type())))
    await page.close({ runBeforeUnload: true })
    expect(await asked).toBe('beforeunload')
  })
})

describe('a recording that the page was left in', () => {
  const bar = 'button::-p-text(Discard)'
  /** Records one change at an elbow and loads the page again in the middle. */
  async function leftInTheMiddle(): Promise<{ page: Page; editor: Editor; before: Puppet }> {
    const id = await freshPuppet()
    const { page, editor } = await openOverLine(id, 'bones')
    const before = await editor.document()
    await choose(page, 'Forearm right')
    await editor.bench('Shape')
    await editor.type('Angle', '40')
    const button = (await page.waitForSelector('aside[aria-label=Details] button::-p-text(Record at)'))!
    await button.evaluate((e) => e.scrollIntoView({ block: 'center' }))
    await button.click()
    await page.waitForSelector(bar)
    await saved(page)
    await page.reload()
    await page.waitForSelector('[role=dialog] ::-p-text(You were recording)')
    return { page, editor, before }
  }

  test('is gone on with', async () => {
    const { page } = await leftInTheMiddle()
    await (await page.waitForSelector('[role=dialog] button::-p-text(Go on recording)'))!.click()
    await page.waitForSelector(bar)
    await (await page.waitForSelector(bar))!.click()
    await page.waitForSelector(bar, { hidden: true })
    await page.close()
  })

  test('is discarded, and nothing of it is left', async () => {
    const { page, editor, before } = await leftInTheMiddle()
    await (await page.waitForSelector('[role=dialog] button::-p-text(Discard it)'))!.click()
    await page.waitForSelector('[role=dialog]', { hidden: true })
    expect((await editor.document()).responses).toEqual(before.responses)
    await page.close()
  })
})

describe('a twin', () => {
  test("of the Dockhand's head is made and saved", async () => {
    const id = await freshPuppet()
    const { page, editor } = await openOverLine(id)
    await choose(page, 'Head')
    const make = (await page.waitForSelector('aside[aria-label=Details] button::-p-text(Make twin)'))!
    await make.evaluate((e) => e.scrollIntoView({ block: 'center' }))
    await make.click()
    await page.waitForSelector('[role=treeitem][aria-label^="Head twin"]')
    await saved(page)
    expect(Object.values((await stored(id)).parts).some((p) => p.twin && p.name.startsWith('Head'))).toBe(true)
    expect((await editor.history()).at(-1)).toContain('twin')
    await page.close()
  })
})

describe('a library with a passcode', () => {
  test('lets in who knows it, and out again', async () => {
    const guarded = await startTestServer({ MARIONETTE_PASSCODE: 'saltmarsh' })
    const context = await session.page.browser().createBrowserContext()
    const page = await context.newPage()
    await page.goto(guarded.url)
    await page.waitForSelector('[role=dialog] ::-p-text(asks for its passcode)')
    await page.type('#passcode', 'seagulls')
    await page.keyboard.press('Enter')
    await page.waitForSelector('[role=alert] ::-p-text(not the passcode)')
    await page.click('#passcode', { count: 3 })
    await page.keyboard.type('saltmarsh')
    await page.keyboard.press('Enter')
    await page.waitForSelector('[data-puppet] img')
    await page.click('[aria-label="The library"]')
    await (await page.waitForSelector('[role=menuitem]::-p-text(Sign out)'))!.click()
    await page.waitForSelector('[role=dialog] ::-p-text(asks for its passcode)')
    await context.close()
    await guarded.stop()
  })
})
