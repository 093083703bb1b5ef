/** What holds when things go wrong: versions, trash, conflicts, crashes, heavy drawings; and what everyone can use. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { canonicalJson } from '@marionette/core/kernel/json'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { loadCanvasKit } from '@marionette/render/node'
import { renderPng } from '@marionette/render/png'
import { seriousFindings } from './accessibility'
import { openPage } from './browser'
import { difference, PIXEL_TOLERANCE, readPicture } from './compare'
import { dropFiles, Editor } from './editor'
import { startSession, type Session } from './session'

const MARLO = 'marlo-puppet-1'

let session: Session
let page: Page
let editor: Editor

beforeAll(async () => {
  session = await startSession()
  ;({ page, editor } = session)
})

afterAll(() => session?.stop())

const text = (selector: string): Promise<unknown> => page.waitForSelector(selector)

/** A puppet of its own for a test. */
async function freshPuppet(): Promise<string> {
  const answer = await fetch(`${session.server.url}/api/puppets/${MARLO}/duplicate`, { method: 'POST' })
  return ((await answer.json()) as { id: string }).id
}

describe('versions', () => {
  test('are listed with pictures, named, looked at, gone back to, and that is undone', async () => {
    await editor.open(await freshPuppet())
    const rest = await editor.document()
    await editor.tool('Pose')
    await editor.drag({ x: 520, y: 622 }, { x: 560, y: 330 })
    const posed = await editor.document()
    await editor.key('h')
    await (await page.waitForSelector('[role=dialog] button::-p-text(Versions)'))!.click()
    await page.waitForFunction(() => document.querySelectorAll('[aria-label=Versions] li').length === 2)
    await page.waitForFunction(() =>
      [...document.querySelectorAll<HTMLImageElement>('[role=dialog] img')].every((i) => i.complete && i.naturalWidth > 0),
    )
    await (await page.waitForSelector('[aria-label=Versions] button::-p-text(Version 1)'))!.click()
    await page.type('[aria-label="Name of the version"]', 'Before the wave')
    await page.keyboard.press('Enter')
    await text('[aria-label=Versions] button::-p-text(Before the wave)')
    await editor.button('Go back to this version')
    await page.waitForSelector('[role=dialog]', { hidden: true })
    expect(canonicalJson(await editor.document())).toBe(canonicalJson(rest))
    expect((await editor.history()).at(-1)).toBe('Go back to Before the wave')
    await editor.key('Control', 'z')
    expect(canonicalJson(await editor.document())).toBe(canonicalJson(posed))
  })
})

describe('the library', () => {
  test('a deleted puppet is taken back from the trash, or goes for good after a question', async () => {
    const id = await freshPuppet()
    await fetch(`${session.server.url}/api/puppets/${id}`, {
      method: 'PATCH',
      headers: { 'Content-Type': 'application/json' },
      body: '{"name":"Short-lived"}',
    })
    await page.goto(session.server.url)
    const remove = async (): Promise<void> => {
      await (await page.waitForSelector('[aria-label="More for Short-lived"]'))!.click()
      await (await page.waitForSelector('[role=menuitem]::-p-text(Delete)'))!.click()
      await page.waitForSelector('[aria-label="Open Short-lived"]', { hidden: true })
      await page.click('[aria-label="The library"]')
      await (await page.waitForSelector('[role=menuitem]::-p-text(Trash)'))!.click()
    }
    await remove()
    await (await page.waitForSelector('[aria-label="Deleted puppets"] button::-p-text(Take back)'))!.click()
    await text('[role=dialog] ::-p-text(Nothing lies here)')
    await page.keyboard.press('Escape')
    await text('[aria-label="Open Short-lived"]')
    await remove()
    await (await page.waitForSelector('[aria-label="Deleted puppets"] button::-p-text(Delete for good…)'))!.click()
    await text('[aria-label="Deleted puppets"] ::-p-text(This cannot be undone.)')
    await (await page.waitForSelector('[aria-label="Deleted puppets"] button::-p-text(Delete for good)'))!.click()
    await text('[role=dialog] ::-p-text(Nothing lies here)')
    await page.keyboard.press('Escape')
    expect((await fetch(`${session.server.url}/api/puppets/${id}`)).status).toBe(404)
  })

  test('everything goes into one backup file, and comes back beside what is there', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'marionette-backup-'))
    const file = join(folder, 'library.zip')
    const bytes = new Uint8Array(await (await fetch(`${session.server.url}/api/backup`)).arrayBuffer())
    writeFileSync(file, bytes)
    expect(readFileSync(file).subarray(0, 2).toString()).toBe('PK')
    await page.goto(session.server.url)
    const input = await page.waitForSelector('[data-testid=backup-input]')
    await (input as unknown as { uploadFile(path: string): Promise<void> }).uploadFile(file)
    await text('[data-sonner-toast] ::-p-text(here already)')
    rmSync(folder, { recursive: true })
  })
})

describe('what the server never confirmed', () => {
  test('is taken up after a crash, and can be left out, which can be undone', async () => {
    const id = await freshPuppet()
    const { page: first } = await openPage(session.browser)
    const working = new Editor(first, session.server.url)
    await working.open(id)
    const stored = await working.document()
    // The server cannot be reached any more, and then the page dies.
    await first.setRequestInterception(true)
    first.on('request', (request) => void (request.method() === 'PUT' ? request.abort() : request.continue()))
    await working.tool('Pose')
    await working.drag({ x: 520, y: 622 }, { x: 560, y: 330 })
    await first.waitForSelector('[data-testid=save-state][data-state=offline]', { timeout: 20_000 })
    await first.close()

    await editor.open(id)
    await text('[data-sonner-toast] ::-p-text(had not reached the server)')
    const recovered = await editor.document()
    expect(Object.keys(recovered.pose)).not.toEqual([])
    await (await page.waitForSelector('[data-sonner-toast] button::-p-text(Leave them out)'))!.click()
    expect(canonicalJson(await editor.document())).toBe(canonicalJson(stored))
    await editor.key('Control', 'z')
    expect(canonicalJson(await editor.document())).toBe(canonicalJson(recovered))
  })

  test('a refusal of the server is said with its reason, and nothing is lost', async () => {
    const { page: other } = await openPage(session.browser)
    const working = new Editor(other, session.server.url)
    await working.open(await freshPuppet())
    await other.setRequestInterception(true)
    let isFull = true
    const full = {
      status: 507,
      contentType: 'application/json',
      body: '{"code":"storage.full","message":"The disk of the library is full."}',
    }
    other.on('request', (request) => void (isFull && request.method() === 'PUT' ? request.respond(full) : request.continue()))
    await working.tool('Pose')
    await working.drag({ x: 520, y: 622 }, { x: 560, y: 330 })
    await other.waitForSelector('[data-testid=save-state][data-state=refused]')
    isFull = false
    expect(Object.keys((await working.document()).pose)).not.toEqual([])
    await other.close()
  })

  test('two versions of one puppet are shown side by side, with pictures of both', async () => {
    const id = await freshPuppet()
    await editor.open(id)
    const { puppet, revision } = (await (await fetch(`${session.server.url}/api/puppets/${id}`)).json()) as {
      puppet: { note: string }
      revision: number
    }
    const body = JSON.stringify({ document: { ...puppet, note: 'from elsewhere' } })
    await fetch(`${session.server.url}/api/puppets/${id}`, {
      method: 'PUT',
      body,
      headers: { 'Content-Type': 'application/json', 'If-Match': `"${revision}"` },
    })
    await editor.tool('Pose')
    await editor.drag({ x: 520, y: 622 }, { x: 560, y: 330 })
    await text('[role=dialog] ::-p-text(This puppet was saved elsewhere)')
    await page.waitForFunction(() => {
      const shown = [...document.querySelectorAll<HTMLImageElement>('[role=dialog] img')]
      return shown.length === 2 && shown.every((i) => i.complete && i.naturalWidth > 0)
    })
    await editor.button('Go on with theirs')
    await page.waitForSelector('[role=dialog]', { hidden: true })
    expect((await editor.document()).note).toBe('from elsewhere')
  })
})

describe('a drawing of twenty thousand paths', () => {
  const path = (i: number): string =>
    `<path d="M${(i % 250) * 4} ${Math.floor(i / 250) * 4}c1 2 3 1 3 3l-2 1z" fill="#${((i * 7919) % 4096).toString(16).padStart(3, '0')}"/>`
  const drawing = (): string => {
    const groups = Array.from(
      { length: 500 },
      (_, g) => `<g id="piece ${g}x">${Array.from({ length: 40 }, (_, i) => path(40 * g + i)).join('')}</g>`,
    )
    return `<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="800">${groups.join('')}</svg>`
  }

  test('is read while the interface goes on answering, and opens', async () => {
    await page.goto(session.server.url)
    await text('[data-puppet] img')
    await dropFiles(page, [{ name: 'many.svg', text: drawing() }])
    await text('[role=status] ::-p-text(many.svg)')
    // While it is being read the library is searched.
    await page.type('[aria-label="Find a puppet"]', 'no such puppet')
    await text('main ::-p-text(No puppet here is called)')
    expect(await page.$('[role=status] button::-p-text(Cancel)')).not.toBeNull()
    await page.click('[aria-label="Find a puppet"]', { count: 3 })
    await page.keyboard.press('Backspace')
    await (await page.waitForSelector('[aria-label="Open many"]', { timeout: 90_000 }))!.click()
    await page.waitForSelector('[role=treeitem]', { timeout: 60_000 })
    await editor.sharp()
    // Of five hundred rows those in sight are there.
    expect((await page.$$('[role=treeitem]')).length).toBeLessThan(200)
    await page.focus('[role=tree] [role=treeitem]')
    await editor.key('End')
    await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'piece 0x')
  })
})

describe('the stage at 6400%', () => {
  test('shows a bent limb as sharp and clean as it is drawn at that size', async () => {
    const id = await freshPuppet()
    await editor.open(id)
    await editor.tool('Pose')
    // The scarf bends with two bones.
    await editor.drag({ x: 232, y: 500 }, { x: 150, y: 420 })
    const puppet = await editor.document()
    await editor.tool('Select')
    const box = (await (await page.$('[data-testid=stage-view]'))!.boundingBox())!
    const spot = await editor.at({ x: 236, y: 425 })
    await page.mouse.move(Math.round(spot.x), Math.round(spot.y))
    while (!(await page.$('[data-testid=overlay][data-camera^="64 "]'))) {
      await page.mouse.wheel({ deltaY: -600 })
      await page.waitForFunction('new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => done(true))))')
    }
    await editor.sharp()
    await page.addStyleTag({
      content:
        '[data-testid=stage-view]{background:#fff!important;border-radius:0!important}[data-testid=stage-view]>:not([data-testid=art]){visibility:hidden!important}',
    })
    const zero = await editor.at({ x: 0, y: 0 })
    const ours = readPicture(await page.screenshot({ clip: box }))
    const minX = (box.x - zero.x) / 64
    const minY = (box.y - zero.y) / 64
    const region = { minX, minY, maxX: minX + box.width / 64, maxY: minY + box.height / 64 }
    const drawn = readPicture(
      renderPng(await loadCanvasKit(), poseRig(compile(puppet)), { width: box.width, background: '#ffffff', region }),
    )
    expect(new Set(Array.from({ length: ours.width }, (_, x) => ours.data[x * ours.channels])).size).toBeGreaterThan(1)
    expect(difference(ours, drawn)).toBeLessThan(PIXEL_TOLERANCE)
    await page.reload()
  })
})

describe('with the keyboard alone', () => {
  test('the roster is walked, renamed, hidden, reordered and undone', async () => {
    await editor.open(await freshPuppet())
    await page.waitForSelector('[role=tree] [role=treeitem]')
    // From the top of the page to the tree.
    for (let i = 0; i < 40; i++) {
      await page.keyboard.press('Tab')
      if (await page.evaluate(() => document.activeElement?.getAttribute('role') === 'treeitem')) break
    }
    const focused = (): Promise<string | null> => page.evaluate(() => document.activeElement!.getAttribute('aria-label'))
    expect(await focused()).toBe('Head')
    await page.keyboard.press('ArrowDown')
    await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'Scarf')
    await page.keyboard.press('ArrowDown')
    await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'Scarf tail')
    await editor.key('Alt', 'ArrowUp')
    await page.waitForFunction(
      () => [...document.querySelectorAll('[role=treeitem]')].map((e) => e.getAttribute('aria-label')).indexOf('Scarf tail') === 1,
    )
    await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'Scarf tail')
    await page.keyboard.press('Enter')
    await page.keyboard.type('Scarf end')
    await page.keyboard.press('Enter')
    await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'Scarf end')
    await editor.key('v')
    const part = Object.values((await editor.document()).parts).find((p) => p.name === 'Scarf end')!
    expect(part.visible).toBe(false)
    for (let i = 0; i < 3; i++) await editor.key('Control', 'z')
    await editor.row('Scarf tail')
    expect((await editor.rows()).slice(0, 3)).toEqual(['Head', 'Scarf', 'Scarf tail'])
  })

  test('dialogs take the focus, are worked by keys and give the focus back', async () => {
    await (await editor.row('Scarf')).focus()
    await editor.key('h')
    await page.waitForSelector('[role=dialog]')
    const isInside = (): Promise<boolean> => page.evaluate(() => document.activeElement!.closest('[role=dialog]') !== null)
    for (let i = 0; i < 12; i++) {
      expect(await isInside()).toBe(true)
      await page.keyboard.press('Tab')
    }
    await page.keyboard.press('Escape')
    await page.waitForSelector('[role=dialog]', { hidden: true })
    await editor.key('Control', 'k')
    await page.waitForSelector('[role=dialog] input')
    await page.keyboard.type('mirrored nothing, theme')
    await editor.key('Control', 'a')
    await page.keyboard.type('To Bones')
    await page.keyboard.press('Enter')
    await page.waitForSelector('a[aria-current=page] ::-p-text(Bones)')
  })
})

describe('for everyone', () => {
  test.each(['daylight', 'footlights'])('axe finds nothing serious (%s)', async (theme) => {
    await page.goto(session.server.url)
    await text('[data-puppet] img')
    await page.evaluate((name) => localStorage.setItem('theme', name), theme)
    await page.reload()
    await text('[data-puppet] img')
    const found: Record<string, string[]> = { library: await seriousFindings(page) }
    await editor.open(MARLO)
    await editor.sharp()
    found['parts'] = await seriousFindings(page)
    await (await editor.row('Head')).click()
    found['a part'] = await seriousFindings(page)
    await editor.bench('Bones')
    await (await editor.row('Spine')).click()
    found['a bone'] = await seriousFindings(page)
    await editor.key('h')
    await page.waitForSelector('[role=dialog]')
    found['history'] = await seriousFindings(page)
    await page.keyboard.press('Escape')
    await editor.bench('Send')
    found['send'] = await seriousFindings(page)
    expect(Object.entries(found).flatMap(([view, list]) => list.map((f) => `${view}: ${f}`))).toEqual([])
  })
})

test('the drawing module loads beside the interface, not before it', async () => {
  const { page: other } = await openPage(session.browser)
  await other.setRequestInterception(true)
  let release: () => void = () => undefined
  const held = new Promise<void>((resolve) => (release = resolve))
  other.on('request', (request) => void (request.url().endsWith('.wasm') ? held.then(() => request.continue()) : request.continue()))
  await other.goto(`${session.server.url}/puppet/${MARLO}/parts`)
  await other.waitForSelector('[role=treeitem][aria-label=Head]')
  expect(await other.$('[data-testid=art][data-drawn]')).toBeNull()
  release()
  await other.waitForSelector('[data-testid=art][data-drawn]')
  await other.close()
})
